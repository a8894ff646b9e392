import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { SignInPage, useSession } from "../features/session";
import { ProblemNote } from "../components/ProblemNote";
import { Waiting } from "../components/Waiting";
import { Frame } from "./Frame";

const PeoplePage = lazy(() =>
  import("../features/people").then((it) => ({ default: it.PeoplePage })),
);
const AskPage = lazy(() => import("../features/ask").then((it) => ({ default: it.AskPage })));
const SettingsPage = lazy(() =>
  import("../features/settings").then((it) => ({ default: it.SettingsPage })),
);
const WelcomePage = lazy(() =>
  import("../features/session/pages/WelcomePage").then((it) => ({ default: it.WelcomePage })),
);

/** Which page stands at which address. */
export function Application() {
  const session = useSession();
  const location = useLocation();
  if (location.pathname === "/welcome") {
    return (
      <Suspense fallback={<Waiting what="the welcome" />}>
        <WelcomePage />
      </Suspense>
    );
  }
  if (session.isPending) return <Waiting what="Mandala" />;
  if (session.isError) {
    return (
      <main className="page">
        <ProblemNote problem={session.error} onRetry={() => void session.refetch()} />
      </main>
    );
  }
  if (!session.data.who) {
    return <SignInPage demo={session.data.demo} />;
  }
  const who = session.data.who;
  return (
    <Frame who={who}>
      <Suspense fallback={<Waiting what="the page" />}>
        <Routes>
          <Route path="/people" element={<PeoplePage />} />
          <Route path="/ask" element={<AskPage who={who} />} />
          <Route path="/settings" element={<SettingsPage />} />
          <Route path="*" element={<Navigate to="/ask" replace />} />
        </Routes>
      </Suspense>
    </Frame>
  );
}
