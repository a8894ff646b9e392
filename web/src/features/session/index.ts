export { SignInPage } from "./pages/SignInPage";
export { SignInAgain } from "./components/SignInAgain";
export { SecondFactor } from "./components/SecondFactor";
export { useSession, useSignOut } from "./queries";
export type { Who } from "./queries";
