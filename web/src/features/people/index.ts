export { PersonPage } from "./pages/PersonPage";
