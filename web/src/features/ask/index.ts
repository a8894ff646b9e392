export { AskPage } from "./pages/AskPage";
export { WhoPage } from "./pages/WhoPage";
export { DifferPage } from "./pages/DifferPage";
export { ChainsPage } from "./pages/ChainsPage";
export { WhyPage } from "./pages/WhyPage";
