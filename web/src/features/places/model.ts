import type { Schemas } from "../../api/client";
import type { Edit } from "../../lib/thing";
import type { PlaceView } from "./queries";

export interface TreeRow {
  place: PlaceView;
  depth: number;
  open: boolean;
}

type Level = Schemas["PlaceList"];

/** The rows in sight: what is below the root, and below whatever is unfolded and was read. */
export function rowsOf(
  root: string,
  levels: Map<string, Level>,
  unfolded: Set<string>,
  depth = 0,
): TreeRow[] {
  return (levels.get(root)?.places ?? []).flatMap((place) => {
    const open = unfolded.has(place.key);
    return [
      { place, depth, open },
      ...(open ? rowsOf(place.key, levels, unfolded, depth + 1) : []),
    ];
  });
}

/** Levels of which not all could be read: how many are left out in all. */
export function leftOut(levels: Map<string, Level>): number {
  return [...levels.values()].reduce((sum, it) => sum + it.total - it.places.length, 0);
}

export type CellWish = "allow" | "deny" | "nothing";

/** The key of the assignment that a cell of the matrix is, so that a cell is one thing. */
export function cellKey(place: string, subject: string, permission: string): string {
  return `cell-${place}-${subject}-${permission}`.replace(/[^a-z0-9._-]+/g, "-");
}

/**
 * The edit that makes a cell so; nothing where it is so already.
 *
 * @param own the assignment that is the cell now, if there is one
 */
export function cellEdit(
  place: string,
  subject: string,
  permission: string,
  wish: CellWish,
  own: { key: string; deny: boolean } | undefined,
): Edit | undefined {
  if (wish === "nothing") {
    return own && { kind: "assignments", key: own.key, remove: true };
  }
  const deny = wish === "deny";
  if (own) {
    return own.deny === deny
      ? undefined
      : { kind: "assignments", key: own.key, set: { effect: deny ? "deny" : null } };
  }
  return {
    kind: "assignments",
    after: {
      key: cellKey(place, subject, permission),
      subject,
      gives: `permission:${permission}`,
      ...(deny && { effect: "deny" }),
      scope: [{ only: place }],
    },
  };
}
