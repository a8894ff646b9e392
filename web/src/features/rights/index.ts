export { RightsPage } from "./pages/RightsPage";
export { RolePage } from "./pages/RolePage";
export { ComparePage } from "./pages/ComparePage";
