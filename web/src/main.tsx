import "@fontsource-variable/commissioner/wght.css";
import "@/shared/theme/base.css";
import { createRoot } from "react-dom/client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { BrowserRouter } from "react-router";
import { Application } from "@/app/Application";
import { Problem } from "@/shared/api/client";
import { AppearanceProvider } from "@/shared/theme/appearance";

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
if (!root) throw new Error("Impossible state: the page has no #root");
createRoot(root).render(
  <QueryClientProvider client={queries}>
    <AppearanceProvider>
      <BrowserRouter>
        <Application />
      </BrowserRouter>
    </AppearanceProvider>
  </QueryClientProvider>,
);
