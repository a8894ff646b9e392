export { PeoplePage } from "./pages/PeoplePage";
