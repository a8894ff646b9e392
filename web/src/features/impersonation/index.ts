export { ImpersonationBar } from "./components/ImpersonationBar";
