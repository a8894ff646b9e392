import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { SignInPage, useSession } from "../features/session";
import { ProblemNote } from "../components/ProblemNote";
import { Waiting } from "../components/Waiting";
import { eyes, leave } from "../lib/eyes";
import { Frame } from "./Frame";

const PeoplePage = lazy(() =>
  import("../features/people").then((it) => ({ default: it.PeoplePage })),
);
const PersonPage = lazy(() =>
  import("../features/people").then((it) => ({ default: it.PersonPage })),
);
const GroupsPage = lazy(() =>
  import("../features/groups").then((it) => ({ default: it.GroupsPage })),
);
const GroupPage = lazy(() =>
  import("../features/groups").then((it) => ({ default: it.GroupPage })),
);
const RightsPage = lazy(() =>
  import("../features/rights").then((it) => ({ default: it.RightsPage })),
);
const RolePage = lazy(() => import("../features/rights").then((it) => ({ default: it.RolePage })));
const ComparePage = lazy(() =>
  import("../features/rights").then((it) => ({ default: it.ComparePage })),
);
const ChecksPage = lazy(() =>
  import("../features/checks").then((it) => ({ default: it.ChecksPage })),
);
const PlacesPage = lazy(() =>
  import("../features/places").then((it) => ({ default: it.PlacesPage })),
);
const TrailPage = lazy(() => import("../features/trail").then((it) => ({ default: it.TrailPage })));
const DraftPage = lazy(() => import("../features/draft").then((it) => ({ default: it.DraftPage })));
const DraftsPage = lazy(() =>
  import("../features/draft").then((it) => ({ default: it.DraftsPage })),
);
const ReadPage = lazy(() => import("../features/draft").then((it) => ({ default: it.ReadPage })));
const WhoPage = lazy(() => import("../features/ask").then((it) => ({ default: it.WhoPage })));
const WhyPage = lazy(() => import("../features/ask").then((it) => ({ default: it.WhyPage })));
const DifferPage = lazy(() => import("../features/ask").then((it) => ({ default: it.DifferPage })));
const YouPage = lazy(() => import("../features/you").then((it) => ({ default: it.YouPage })));
const LookPage = lazy(() => import("../features/look").then((it) => ({ default: it.LookPage })));
const SidePage = lazy(() => import("../features/look").then((it) => ({ default: it.SidePage })));
const ChainsPage = lazy(() => import("../features/ask").then((it) => ({ default: it.ChainsPage })));
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
        {eyes() && (
          <button type="button" className="link" onClick={() => leave("/")}>
            Leave the view
          </button>
        )}
      </main>
    );
  }
  if (!session.data.who) {
    return <SignInPage demo={session.data.demo} />;
  }
  const who = session.data.who;
  if (location.pathname === "/look") {
    return (
      <Suspense fallback={<Waiting what="the view" />}>
        <LookPage />
      </Suspense>
    );
  }
  return (
    <Frame who={who} by={session.data.seenBy}>
      <Suspense fallback={<Waiting what="the page" />}>
        <Routes>
          <Route path="/people" element={<PeoplePage />} />
          <Route path="/people/:key" element={<PersonPage />} />
          <Route path="/groups" element={<GroupsPage />} />
          <Route path="/groups/:key" element={<GroupPage />} />
          <Route path="/rights" element={<Navigate to="/rights/roles" replace />} />
          <Route path="/rights/compare" element={<ComparePage />} />
          <Route path="/rights/roles/:key" element={<RolePage />} />
          <Route path="/rights/:part" element={<RightsPage />} />
          <Route path="/places" element={<PlacesPage />} />
          <Route path="/checks" element={<ChecksPage />} />
          <Route path="/trail" element={<TrailPage />} />
          <Route path="/drafts" element={<DraftsPage />} />
          <Route path="/drafts/:id" element={<DraftPage who={who} />} />
          <Route path="/drafts/:id/read" element={<ReadPage />} />
          <Route path="/ask" element={<AskPage who={who} />} />
          <Route path="/ask/who" element={<WhoPage />} />
          <Route path="/ask/why" element={<WhyPage self={who.key} />} />
          <Route path="/ask/chains" element={<ChainsPage />} />
          <Route path="/ask/differ" element={<DifferPage self={who.key} />} />
          <Route path="/side" element={<SidePage />} />
          <Route path="/you" element={<YouPage who={who} />} />
          <Route path="/settings" element={<SettingsPage />} />
          <Route path="*" element={<Navigate to="/ask" replace />} />
        </Routes>
      </Suspense>
    </Frame>
  );
}
