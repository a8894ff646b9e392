import { createContext, use } from "react";
import type { Who } from "./queries";

/** Whoever is signed in, for the pages inside the frame. */
export const WhoContext = createContext<Who | undefined>(undefined);

/** @throws Error outside the frame */
export function useWho(): Who {
  const who = use(WhoContext);
  if (!who) throw new Error("Impossible state: a page without a signed-in person");
  return who;
}
