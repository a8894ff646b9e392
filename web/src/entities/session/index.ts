export { DemoCode } from "./DemoCode";
export { useDemoPeople, useSession, useSignIn, useSignOut, useStepUp, type Who } from "./queries";
export { useWho, WhoContext } from "./useWho";
