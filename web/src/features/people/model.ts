import type { Edit } from "../../lib/thing";
/** Which people the list shows; it is the page's address. */
export interface Filter {
  account: string;
  states: string[];
  kind: string;
  title: string;
  text: string;
}

export const PAGE = 50;
export const ROW_HEIGHT = 58;
export const STATES = ["active", "invited", "suspended", "left"];

export function filterOf(params: URLSearchParams, account: string): Filter {
  return {
    account: params.get("in") ?? account,
    states: (params.get("state") ?? "active,invited")
      .split(",")
      .filter((it) => STATES.includes(it)),
    kind: params.get("kind") ?? "",
    title: params.get("job") ?? "",
    text: params.get("text") ?? "",
  };
}

export function statesInWords(states: string[]): string {
  if (states.length === 0 || states.length === STATES.length) return "in any state";
  return STATES.filter((it) => states.includes(it)).join(" or ");
}

/** The rows to draw for a scroll position, with some above and below. */
export function rowsInSight(scrollTop: number, height: number, total: number): [number, number] {
  const first = Math.max(0, Math.floor(scrollTop / ROW_HEIGHT) - 6);
  const last = Math.min(total, Math.ceil((scrollTop + height) / ROW_HEIGHT) + 6);
  return [Math.min(first, last), last];
}

export function pagesOf(first: number, last: number): number[] {
  const pages: number[] = [];
  if (last <= first) return pages;
  for (let page = Math.floor(first / PAGE); page * PAGE < last; page++) pages.push(page);
  return pages;
}

/** The first role names, and how many more there are. */
export function rolesInWords(roles: string[]): { shown: string; more: number } {
  return { shown: roles.slice(0, 3).join(", "), more: Math.max(0, roles.length - 3) };
}

/** So many can be chosen at once. */
export const MOST_AT_ONCE = 1_000;

/** What is done with many people at once. */
export type ManyAct =
  | { kind: "join"; group: string }
  | { kind: "unit"; unit: string }
  | { kind: "state"; state: string };

interface Somebody {
  key: string;
  kind: string;
}

/** A principal as groups and assignments name it. */
export function refOf(it: Somebody): string {
  return `${it.kind}:${it.key}`;
}

/** The edits of the draft that do it to all of them. */
export function editsOf(act: ManyAct, people: Somebody[]): Edit[] {
  switch (act.kind) {
    case "join":
      return [{ kind: "groups", key: act.group, add: { members: people.map(refOf) } }];
    case "unit":
      return people.map((it) => ({ kind: "principals", key: it.key, set: { unit: act.unit } }));
    case "state":
      return people.map((it) => ({
        kind: "principals",
        key: it.key,
        set: { status: act.state === "active" ? null : act.state },
      }));
    default:
      return act satisfies never;
  }
}
