import { lazy, type ComponentType, type LazyExoticComponent } from "react";
import { Navigate, type RouteObject } from "react-router";

type Page = LazyExoticComponent<ComponentType>;

/** A page that is loaded when it is first opened. */
function page<M, K extends keyof M>(
  load: () => Promise<M>,
  name: K & (M[K] extends ComponentType ? K : never),
): Page {
  return lazy(async () => ({ default: (await load())[name] as ComponentType }));
}

const PAGES: [path: string, page: Page][] = [
  ["/people", page(() => import("@/features/people/pages/PeoplePage"), "PeoplePage")],
  ["/use", page(() => import("@/features/people/pages/UsePage"), "UsePage")],
  ["/people/:key", page(() => import("./PersonRoute"), "PersonRoute")],
  ["/watch-rules", page(() => import("@/features/people/pages/WatchRulesPage"), "WatchRulesPage")],
  [
    "/watch-rules/:rule",
    page(() => import("@/features/people/pages/WatchRulePage"), "WatchRulePage"),
  ],
  [
    "/personnel",
    page(() => import("@/features/people/pages/PersonnelListsPage"), "PersonnelListsPage"),
  ],
  [
    "/personnel/:list",
    page(() => import("@/features/people/pages/PersonnelPage"), "PersonnelPage"),
  ],
  ["/bring-in", page(() => import("@/features/people/pages/BringInPage"), "BringInPage")],
  ["/people/:key/copy", page(() => import("@/features/people/pages/CopyPage"), "CopyPage")],
  ["/people/:key/move", page(() => import("@/features/people/pages/MovePage"), "MovePage")],
  ["/people/:key/lend", page(() => import("@/features/people/pages/LendPage"), "LendPage")],
  ["/people/:key/part", page(() => import("@/features/people/pages/PartPage"), "PartPage")],
  ["/people/:key/return", page(() => import("@/features/people/pages/ReturnPage"), "ReturnPage")],
  ["/people/:key/split", page(() => import("@/features/people/pages/SplitPage"), "SplitPage")],
  ["/groups", page(() => import("@/features/groups/pages/GroupsPage"), "GroupsPage")],
  ["/groups/:key", page(() => import("@/features/groups/pages/GroupPage"), "GroupPage")],
  [
    "/rights/compare",
    page(() => import("@/features/rights/pages/RoleComparisonPage"), "RoleComparisonPage"),
  ],
  ["/rights/roles/:key", page(() => import("@/features/rights/pages/RolePage"), "RolePage")],
  ["/rights/:part", page(() => import("@/features/rights/pages/RightsPage"), "RightsPage")],
  ["/places", page(() => import("@/features/places/pages/PlacesPage"), "PlacesPage")],
  ["/checks", page(() => import("@/features/checks/pages/ChecksPage"), "ChecksPage")],
  ["/reviews", page(() => import("@/features/reviews/pages/ReviewsPage"), "ReviewsPage")],
  ["/reviews/new", page(() => import("@/features/reviews/pages/NewRoundPage"), "NewRoundPage")],
  [
    "/reviews/rules/:rule",
    page(() => import("@/features/reviews/pages/EventRulePage"), "EventRulePage"),
  ],
  ["/reviews/:round", page(() => import("@/features/reviews/pages/DecidePage"), "DecidePage")],
  [
    "/reviews/reviewed",
    page(() => import("@/features/reviews/pages/ReviewedPage"), "ReviewedPage"),
  ],
  [
    "/reviews/:round/report",
    page(() => import("@/features/reviews/pages/ReportPage"), "ReportPage"),
  ],
  ["/reviews/:round/round", page(() => import("@/features/reviews/pages/RoundPage"), "RoundPage")],
  ["/trail", page(() => import("@/features/trail/pages/TrailPage"), "TrailPage")],
  ["/drafts", page(() => import("@/features/draft/pages/DraftsPage"), "DraftsPage")],
  ["/drafts/:id", page(() => import("@/features/draft/pages/DraftPage"), "DraftPage")],
  ["/drafts/:id/read", page(() => import("@/features/draft/pages/PrintPage"), "PrintPage")],
  ["/ask", page(() => import("@/features/ask/pages/AskPage"), "AskPage")],
  ["/ask/who", page(() => import("@/features/ask/pages/WhoPage"), "WhoPage")],
  ["/ask/why", page(() => import("@/features/ask/pages/WhyPage"), "WhyPage")],
  ["/ask/escalation", page(() => import("@/features/ask/pages/EscalationPage"), "EscalationPage")],
  ["/ask/differ", page(() => import("@/features/ask/pages/ComparePage"), "ComparePage")],
  ["/side", page(() => import("@/features/ask/pages/SideBySidePage"), "SideBySidePage")],
  ["/you", page(() => import("@/features/you/pages/YouPage"), "YouPage")],
  ["/you/reviews", page(() => import("@/features/you/pages/YouReviewsPage"), "YouReviewsPage")],
  ["/you/notices", page(() => import("@/features/you/pages/NoticesPage"), "NoticesPage")],
  ["/you/work", page(() => import("@/features/you/pages/WorkPage"), "WorkPage")],
  ["/settings", page(() => import("@/features/settings/pages/SettingsPage"), "SettingsPage")],
];

/** The pages inside the frame, by address. */
export const ROUTES: RouteObject[] = [
  ...PAGES.map(([path, Component]) => ({ path, element: <Component /> })),
  { path: "/rights", element: <Navigate to="/rights/roles" replace /> },
  { path: "*", element: <Navigate to="/ask" replace /> },
];

export const JoinPage = page(() => import("@/features/session/pages/JoinPage"), "JoinPage");
export const WelcomePage = page(
  () => import("@/features/session/pages/WelcomePage"),
  "WelcomePage",
);
export const StartViewPage = page(
  () => import("@/features/impersonation/pages/StartViewPage"),
  "StartViewPage",
);
