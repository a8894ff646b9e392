export { TrailPage } from "./pages/TrailPage";
