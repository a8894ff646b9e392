import { fileAddress } from "@/shared/lib/fileAddress";
import { beginningOf, endOf } from "@/shared/lib/words";
import { refOf } from "@/entities/subject/model";
import type { Schemas } from "@/shared/api/client";
import type { Edit } from "@/shared/lib/thing";
import { CLASSES, RISKS } from "@/shared/theme/theme";
import { filtersOf, GROUPINGS, type FilterName } from "./filters";
import type { Row } from "./queries";

/** Which people the list shows; the page keeps it in its address. */
export interface Filter {
  account: string;
  states: string[];
  title: string;
  text: string;
  more: Partial<Record<FilterName, string>>;
  /** What the list is grouped by, or empty. */
  by: string;
  /** The one group that is shown; empty for all. */
  of: string;
  /** The column that sorts, with a minus before it where its order is turned round. */
  sort: string;
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
    title: params.get("job") ?? "",
    text: params.get("text") ?? "",
    more: filtersOf(params),
    by: GROUPINGS.find((it) => it === params.get("by")) ?? "",
    of: "",
    sort: params.get("people.sort") ?? "",
  };
}

export function statesInWords(states: string[]): string {
  if (states.length === 0 || states.length === STATES.length) return "in any state";
  return STATES.filter((it) => states.includes(it)).join(" or ");
}

/** The rows to draw at a scroll position, with some above and below: from and to, exclusive. */
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

/** The first role names, and the number of further ones. */
export function rolesInWords(roles: string[]): { shown: string; more: number } {
  return { shown: roles.slice(0, 3).join(", "), more: Math.max(0, roles.length - 3) };
}

/** Most people that can be selected at once. */
export const MOST_AT_ONCE = 1_000;

/** Somebody who is selected, in the list or from a pasted one. */
export type Selected = Pick<Row, "key" | "name" | "kind">;

/** An action on many people at once. */
export type ManyAct =
  | { kind: "join"; group: string }
  | { kind: "unit"; unit: string }
  | { kind: "manager"; manager: string }
  | { kind: "until"; until: string }
  | { kind: "state"; state: string };

/** The edits of an action on all of them. */
export function editsOf(act: ManyAct, people: { key: string; kind: string }[]): Edit[] {
  switch (act.kind) {
    case "join":
      return [{ kind: "groups", key: act.group, add: { members: people.map(refOf) } }];
    case "unit":
      return people.map((it) => ({ kind: "principals", key: it.key, set: { unit: act.unit } }));
    case "manager":
      return people
        .filter((it) => it.kind === "person" && it.key !== act.manager)
        .map((it) => ({ kind: "principals", key: it.key, set: { manager: act.manager } }));
    case "until":
      return people.map((it) => ({
        kind: "principals",
        key: it.key,
        set: { until: act.until === "" ? null : `${act.until}T00:00:00Z` },
      }));
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

/** The filters with numbers as such; what is no number is left out. */
function numbered({ unseen, ends, exposed, ...words }: Filter["more"]) {
  const numbers = Object.entries({ unseen, ends, exposed }).flatMap(([name, value]) =>
    /^\d+$/.test(value ?? "") ? [[name, Number(value)]] : [],
  );
  return { ...words, ...Object.fromEntries(numbers) } as typeof words & {
    unseen?: number;
    ends?: number;
    exposed?: number;
  };
}

/** The parameters of the server's list of people. */
export function queryOf(filter: Filter) {
  return {
    account: filter.account,
    text: filter.text,
    state: filter.states.join(","),
    title: filter.title,
    ...numbered(filter.more),
    ...(filter.by !== "" && { by: filter.by }),
    ...(filter.of !== "" && { of: filter.of }),
    ...(filter.sort !== "" && { sort: filter.sort }),
  };
}

/** The list as a file. */
export function fileOf(filter: Filter, format: "csv" | "xlsx"): string {
  const query: Record<string, string> = {};
  Object.entries(queryOf(filter)).forEach(([name, value]) => (query[name] = String(value)));
  return fileAddress("/api/people/file", query, format);
}

/** The rows from one place of the list to another, as far as they are loaded. */
export function rowsBetween(slots: Slot[], one: number, other: number): Row[] {
  return slots
    .slice(Math.min(one, other), Math.max(one, other) + 1)
    .flatMap(({ row }) => (row ? [row] : []));
}

/** A place in the list, and the person there once loaded. */
export interface Slot {
  at: number;
  row: Row | undefined;
}

/** All places of the list with what is loaded of it, page by page. */
export function rowsFrom(total: number, pages: number[], loaded: (Row[] | undefined)[]): Slot[] {
  const slots: Slot[] = Array.from({ length: total }, (_, at) => ({ at, row: undefined }));
  pages.forEach((page, i) =>
    loaded[i]?.forEach((row, within) => {
      const at = page * PAGE + within;
      if (at < total) slots[at] = { at, row };
    }),
  );
  return slots;
}

/** The whole figure of a thumbprint: areas without names, and petals with nothing filled in. */
export function figureFrom(
  { rights, areas, petals }: Schemas["Thumbprint"],
  all: Schemas["Area"][],
): Schemas["FigureView"] {
  const sectors = areas.map((area, at) => {
    const { account = false, door = false, size = 0 } = all[area] ?? {};
    return { key: String(at), name: "", account, door, size, petals: CLASSES.map(emptyPetal) };
  });
  for (const [
    at = 0,
    of = 0,
    applicable = 0,
    reached = 0,
    blocked = 0,
    denied = 0,
    risk = 0,
  ] of petals) {
    const petal = sectors[at]?.petals[of];
    const word = RISKS[risk - 1];
    if (petal)
      Object.assign(petal, { applicable, reached, blocked, denied, ...(word && { risk: word }) });
  }
  return { rights, sectors };
}

function emptyPetal(accessClass: string): Schemas["Petal"] {
  return { accessClass, applicable: 0, reached: 0, blocked: 0, denied: 0 };
}

/** The page of a person of the list. */
export function personPage(row: { key: string }): string {
  return `/people/${encodeURIComponent(row.key)}`;
}

const STATE_WORDS: Record<string, string> = {
  "not yet": "not active yet",
  over: "no longer active",
  "account suspended": "account suspended",
};

/** The state of a person as the server gives it, in words. */
export function stateInWords(state: string): string {
  return STATE_WORDS[state] ?? state;
}

/** When somebody can be active, in words; empty where that has no bounds. */
export function windowInWords(from: string, until: string): string {
  if (from && until) return `active from ${beginningOf(from)} until ${endOf(until)}`;
  if (from) return `active from ${beginningOf(from)}`;
  return until ? `active until ${endOf(until)}` : "";
}
