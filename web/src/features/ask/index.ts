export { PersonAccess } from "./components/PersonAccess";
