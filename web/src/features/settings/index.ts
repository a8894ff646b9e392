export { SettingsPage } from "./pages/SettingsPage";
