export { PersonHistory } from "./components/PersonHistory";
