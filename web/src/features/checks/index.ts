export { ChecksPage } from "./pages/ChecksPage";
