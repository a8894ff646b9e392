export { PlacesPage } from "./pages/PlacesPage";
