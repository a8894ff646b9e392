export { DraftPill } from "./components/DraftPill";
export { DraftPage } from "./pages/DraftPage";
export { DraftsPage } from "./pages/DraftsPage";
export { ReadPage } from "./pages/ReadPage";
export { useEdit, useTakeBack } from "./queries";
