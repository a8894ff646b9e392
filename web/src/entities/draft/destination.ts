import type { Schemas } from "@/shared/api/client";
import { isDoubtful } from "./names";

type Asker = (active: Schemas["Summary"]) => Promise<string>;

const PREFIX = "mandala.belongs.";

let asker: Asker | undefined;

/** Registers who asks in which draft a change belongs; gives the way to take it back. */
export function onDestination(next: Asker): () => void {
  asker = next;
  return () => {
    if (asker === next) asker = undefined;
  };
}

/**
 * The draft that takes a change: undefined for the active one, an id, or "new". Asks once for each
 * active draft that takes a revision back or that somebody else wrote in too.
 *
 * @throws Cancelled if the person does not choose
 */
export async function destinationOf(
  active: Schemas["Summary"] | undefined,
): Promise<string | undefined> {
  if (!active || !asker || !isDoubtful(active)) return undefined;
  if (sessionStorage.getItem(PREFIX + active.id)) return undefined;
  const chosen = await asker(active);
  if (chosen === active.id) sessionStorage.setItem(PREFIX + active.id, "yes");
  return chosen;
}
