export { AskPage } from "./pages/AskPage";
