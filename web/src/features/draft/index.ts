export { DraftStatus } from "./components/DraftStatus";
