import type { Region } from "@/entities/access/model";

/** A place and the permissions held there; what is the same below is not repeated. */
export interface Held {
  place: string;
  resource: string;
  allowed: string[];
}

/** Most places that are listed. */
const MOST = 60;

/**
 * Permissions by the largest places on which they are held throughout. What is held in part of a
 * place is listed at the places inside it.
 */
export function heldIn(regions: Region[], names: Map<string, string>): Held[] {
  return regions.flatMap((region) => listIn(region, names, new Set())).slice(0, MOST);
}

function listIn(region: Region, names: Map<string, string>, above: Set<string>): Held[] {
  const fresh = region.cells.filter(
    (cell) =>
      cell.allowed > 0 && !cell.permission.startsWith("mandala.") && !above.has(cell.permission),
  );
  const inside = region.below.length > 0;
  const here = fresh.filter((cell) => cell.allowed === cell.applicable || !inside);
  const repeated = new Set([...above, ...here.map((cell) => cell.permission)]);
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
    fresh.length > here.length ? region.below.flatMap((it) => listIn(it, names, repeated)) : [];
  return held.allowed.length > 0 ? [held, ...below] : below;
}

/** Whether something ends within a month. */
export function endsSoon(until: string | undefined, now: Date): boolean {
  if (!until) return false;
  const left = Date.parse(until) - now.getTime();
  return left > 0 && left < 31 * 86_400_000;
}
