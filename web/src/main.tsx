import "@fontsource-variable/commissioner/wght.css";
import "./app/base.css";
import { createRoot } from "react-dom/client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { BrowserRouter } from "react-router";
import { LookProvider } from "./app/look";
import { Application } from "./app/Application";
import { Problem } from "./api/client";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      refetchOnWindowFocus: false,
      retry: (failures, error) =>
        error instanceof Problem && (error.status === 0 || error.status === 503) && failures < 2,
    },
  },
});

const root = document.getElementById("root");
if (!root) throw new Error("The page lacks its root");
createRoot(root).render(
  <QueryClientProvider client={queries}>
    <LookProvider>
      <BrowserRouter>
        <Application />
      </BrowserRouter>
    </LookProvider>
  </QueryClientProvider>,
);
