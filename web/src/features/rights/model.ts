import { listOf, textOf, type Thing } from "@/shared/lib/thing";
import type { ThingView } from "@/entities/thing/queries";

export interface Spot {
  key: string;
  name: string;
  column: number;
  row: number;
}

export interface Arrow {
  from: Spot;
  to: Spot;
  kind: "implies" | "requires";
}

/**
 * Lays permissions out in columns: a permission that implies or needs others is to the right of
 * them, so that every arrow points left.
 */
export function picture(
  permissions: ThingView[],
  names: Map<string, string>,
): { spots: Spot[]; arrows: Arrow[]; columns: number; rows: number } {
  const known = new Map(permissions.map((it) => [it.key ?? "", it]));
  const links = (it: ThingView) =>
    [...listOf(it.thing, "implies"), ...listOf(it.thing, "requires")].filter((key) =>
      known.has(key),
    );
  const depths = new Map<string, number>();
  const depth = (key: string, seen: string[] = []): number => {
    const found = depths.get(key);
    if (found !== undefined || seen.includes(key)) return found ?? 0;
    const it = known.get(key);
    const below = it ? links(it).map((each) => depth(each, [...seen, key]) + 1) : [];
    const result = Math.max(0, ...below);
    depths.set(key, result);
    return result;
  };
  const filled: number[] = [];
  const spots = permissions.map((it): Spot => {
    const key = it.key ?? "";
    const column = depth(key);
    const row = filled[column] ?? 0;
    filled[column] = row + 1;
    return { key, name: names.get(key) ?? key, column, row };
  });
  const at = new Map(spots.map((it) => [it.key, it]));
  const arrows = permissions.flatMap((it) =>
    (["implies", "requires"] as const).flatMap((kind) =>
      listOf(it.thing, kind).flatMap((key): Arrow[] => {
        const from = at.get(it.key ?? "");
        const to = at.get(key);
        return from && to ? [{ from, to, kind }] : [];
      }),
    ),
  );
  return { spots, arrows, columns: filled.length, rows: Math.max(0, ...filled) };
}

/** Names only in the first list, in both, and only in the second. */
export function apart(one: string[], other: string[]): [string[], string[], string[]] {
  return [
    one.filter((it) => !other.includes(it)),
    one.filter((it) => other.includes(it)),
    other.filter((it) => !one.includes(it)),
  ];
}

/** A copy of a role, to adapt: based on the original, and owned by an account. */
export function copyOf(role: Thing, name: string, account: string | undefined): Thing {
  const rest = Object.fromEntries(
    Object.entries(role).filter(([field]) => field !== "key" && field !== "code"),
  );
  return { ...rest, name: `${name} (copy)`, basedOn: textOf(role, "key"), account };
}
