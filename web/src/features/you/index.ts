export { YouPage } from "./pages/YouPage";
