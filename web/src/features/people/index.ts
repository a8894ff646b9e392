export { PeoplePage } from "./pages/PeoplePage";
export { PersonPage } from "./pages/PersonPage";
