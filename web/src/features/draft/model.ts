import { count } from "../../lib/words";
import type { ChangeView, ImpactView } from "./queries";

/** Changes under the kind of thing that they are about, in the order in which kinds first come. */
export function byKind(changes: ChangeView[]): [string, ChangeView[]][] {
  const groups = new Map<string, ChangeView[]>();
  for (const change of changes) {
    groups.set(change.kindName, [...(groups.get(change.kindName) ?? []), change]);
  }
  return [...groups];
}

/** Where a thing has a page of its own. */
export function pageOf(kind: string, key: string | undefined): string | undefined {
  if (!key) return undefined;
  const id = encodeURIComponent(key);
  switch (kind) {
    case "roles":
      return `/rights/roles/${id}`;
    case "permissionSets":
      return `/rights/sets?open=${id}`;
    case "permissions":
      return `/rights/permissions?open=${id}`;
    case "groups":
      return `/groups/${id}`;
    case "resources":
      return `/places?at=${id}`;
    case "accounts":
      return `/places?at=account:${id}`;
    case "units":
      return `/places?at=unit:${id}`;
    case "principals":
      return `/people/${id}`;
    default:
      return undefined;
  }
}

/** How many findings of one rule are told one by one. */
const TOLD = 3;

/** Findings of one rule together: the first few, and how many more there are. */
export function byRule(
  findings: ImpactView["begin"],
): { key: string; name: string; kind: string; said: string[]; more: number }[] {
  const rules = new Map<string, ImpactView["begin"]>();
  for (const it of findings) {
    const id = `${it.kind} ${it.key}`;
    rules.set(id, [...(rules.get(id) ?? []), it]);
  }
  return [...rules].map(([key, all]) => ({
    key,
    name: all[0]?.name ?? key,
    kind: all[0]?.kind ?? "",
    said: all.slice(0, TOLD).map((it) => it.said),
    more: Math.max(0, all.length - TOLD),
  }));
}

/** A gain and a loss as people read them. */
export function balance(gained: number, lost: number, rerouted = 0): string {
  const parts = [];
  if (gained > 0) parts.push(`gains ${count(gained, "right")}`);
  if (lost > 0) parts.push(`loses ${count(lost, "right")}`);
  if (rerouted > 0) parts.push(`keeps ${count(rerouted, "right")} by another route`);
  return parts.join(", ") || "keeps what they have";
}
