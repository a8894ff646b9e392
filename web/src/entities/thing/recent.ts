import type { Pickable } from "./pickable";

const KEPT = "mandala.recent.";
const MOST = 24;

/** What a person chose last in this window, the newest first. */
export function recentOf(person: string): Pickable[] {
  try {
    const found: unknown = JSON.parse(sessionStorage.getItem(KEPT + person) ?? "[]");
    return Array.isArray(found) ? (found as Pickable[]) : [];
  } catch {
    return []; // nothing that this version wrote
  }
}

/** Notes a choice, so that it comes first the next time. */
export function noteRecent(person: string, chosen: Pickable): void {
  const others = recentOf(person).filter(
    (it) => !(it.kind === chosen.kind && it.key === chosen.key),
  );
  sessionStorage.setItem(KEPT + person, JSON.stringify([chosen, ...others].slice(0, MOST)));
}
