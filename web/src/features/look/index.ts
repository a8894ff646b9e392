export { SeenFrame } from "./components/SeenFrame";
export { LookPage } from "./pages/LookPage";
export { SidePage } from "./pages/SidePage";
