import type { Region } from "../ask/model";

/** A place, and what one can do there, in words; what is the same below is not said again. */
export interface Held {
  place: string;
  resource: string;
  allowed: string[];
}

/** What is held in the regions at the top, and in those below where it differs. */
export function heldIn(regions: Region[], names: Map<string, string>): Held[] {
  return regions.flatMap((region) => {
    const allowed = region.cells
      .filter((cell) => cell.allowed > 0 && !cell.permission.startsWith("mandala."))
      .map(
        (cell) =>
          (names.get(cell.permission) ?? cell.permission) +
          (cell.allowed < cell.applicable ? ` (on ${cell.allowed} of ${cell.applicable})` : ""),
      );
    return allowed.length > 0 ? [{ place: region.name, resource: region.resource, allowed }] : [];
  });
}

/** Whether an end comes within a month. */
export function endsSoon(until: string | undefined, now: Date): boolean {
  if (!until) return false;
  const left = Date.parse(until) - now.getTime();
  return left > 0 && left < 31 * 86_400_000;
}
