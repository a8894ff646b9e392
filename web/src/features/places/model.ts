import type { Schemas } from "@/shared/api/client";
import { textOf, type Edit } from "@/shared/lib/thing";
import type { PlaceView } from "@/entities/place/queries";

/** A node of the tree, and the nodes below it as far as they are loaded. */
export interface PlaceNode {
  key: string;
  title: string;
  place: PlaceView;
  isLeaf: boolean;
  children: PlaceNode[];
}

type Level = Schemas["PlaceList"];

/** The nodes below a place: those loaded, and below the unfolded ones theirs. */
export function nodesOf(
  root: string,
  levels: Map<string, Level>,
  unfolded: Set<string>,
): PlaceNode[] {
  return (levels.get(root)?.places ?? []).map((place) => ({
    key: place.key,
    title: place.name,
    place,
    isLeaf: place.children === 0,
    children: unfolded.has(place.key) ? nodesOf(place.key, levels, unfolded) : [],
  }));
}

/** How many places are left out of levels that are too long to load whole. */
export function leftOut(levels: Map<string, Level>): number {
  return [...levels.values()].reduce((sum, it) => sum + it.total - it.places.length, 0);
}

export type CellWish = "allow" | "deny" | "nothing";

/** The key of the assignment behind a cell of the matrix. */
export function cellKey(place: string, subject: string, permission: string): string {
  return `cell-${place}-${subject}-${permission}`.replace(/[^a-z0-9._-]+/g, "-");
}

/**
 * The edit that sets a cell; undefined where it is set so already.
 *
 * @param own the assignment behind the cell now, if there is one
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

/** A cell of the access matrix in words. */
export function cellInWords(cell: Schemas["MatrixCell"] | undefined): string {
  if (!cell) return "not assigned";
  const ways: Record<string, string> = {
    own: "set here",
    inherited: "inherited",
    implied: "by implication",
  };
  return [
    cell.effect === "deny" ? "denied" : "granted",
    ways[cell.way],
    cell.sealedBy && `but sealed off at ${cell.sealedBy}`,
    cell.conditional && "under conditions",
  ]
    .filter(Boolean)
    .join(", ");
}

/** Labels as lines of text, one `name=value` a line, and back. Lines without both are left out. */
export function labelLines(labels: Record<string, string>): string {
  return Object.entries(labels)
    .map(([name, it]) => `${name}=${it}`)
    .join("\n");
}

export function labelsIn(text: string): Record<string, string> {
  const labels: Record<string, string> = {};
  for (const line of text.split("\n")) {
    const [name = "", value = ""] = line.split("=").map((it) => it.trim());
    if (name && value) labels[name] = value;
  }
  return labels;
}

/** Whether a thing is an account that is suspended itself. */
export function isSuspended(thing: Schemas["ThingView"] | undefined): boolean {
  return thing?.kind === "accounts" && textOf(thing.thing, "status") === "suspended";
}
