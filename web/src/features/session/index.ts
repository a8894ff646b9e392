export { SecondFactor } from "./components/SecondFactor";
export { SignInAgain } from "./components/SignInAgain";
export { SignInPage } from "./pages/SignInPage";
