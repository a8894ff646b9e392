import type { Region } from "../ask/model";

/** A place, and what one can do there, in words; what is the same below is not said again. */
export interface Held {
  place: string;
  resource: string;
  allowed: string[];
}

/** How many places are told apart at most. */
const MOST = 60;

/**
 * What is held, by the largest places on which it is held throughout; what lies inside of places
 * that are held in part is told there.
 */
export function heldIn(regions: Region[], names: Map<string, string>): Held[] {
  return regions.flatMap((region) => told(region, names, new Set())).slice(0, MOST);
}

function told(region: Region, names: Map<string, string>, above: Set<string>): Held[] {
  const fresh = region.cells.filter(
    (cell) =>
      cell.allowed > 0 && !cell.permission.startsWith("mandala.") && !above.has(cell.permission),
  );
  const inside = region.below.length > 0;
  const here = fresh.filter((cell) => cell.allowed === cell.applicable || !inside);
  const said = new Set([...above, ...here.map((cell) => cell.permission)]);
  const held: Held = {
    place: region.name,
    resource: region.resource,
    allowed: here.map(
      (cell) =>
        (names.get(cell.permission) ?? cell.permission) +
        (cell.allowed < cell.applicable ? ` (on ${cell.allowed} of ${cell.applicable})` : ""),
    ),
  };
  const below =
    fresh.length > here.length ? region.below.flatMap((it) => told(it, names, said)) : [];
  return held.allowed.length > 0 ? [held, ...below] : below;
}

/** Whether an end comes within a month. */
export function endsSoon(until: string | undefined, now: Date): boolean {
  if (!until) return false;
  const left = Date.parse(until) - now.getTime();
  return left > 0 && left < 31 * 86_400_000;
}
