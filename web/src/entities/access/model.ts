import { CLASSES, type AccessClass, type Risk } from "@/shared/theme/theme";
import type { MarkVerdict } from "./VerdictMark";
import type { Schemas } from "@/shared/api/client";
import { dateOf } from "@/shared/lib/words";

export type Region = Schemas["RegionView"];
export type Cell = Schemas["CellView"];
export type Permission = Schemas["PermissionView"];
export type Answer = Schemas["AccessAnswer"];

/** Acting for oneself and everyone one may act for. */
export const EVERYBODY = "*";

/** The question; it is the page's address, so that a link gives the same answer. */
export interface Question {
  who: string;
  /** An account, or empty for everywhere. */
  in: string;
  doors: boolean;
  /** An instant, or empty for now. */
  at: string;
  factor: boolean;
  /** A principal, empty for nobody, or {@link EVERYBODY}. */
  actingFor: string;
  /** Just-in-time assignments to treat as active. */
  on?: string[];
  /** A draft to apply to the model first. */
  draft?: string;
  /** A past revision to ask about. */
  revision?: string;
  /** Whether to answer as if the person were active. */
  asActive?: boolean;
}

/** The question about everything that somebody has everywhere, signed in with a second factor. */
export function questionAbout(who: string, more: Partial<Question> = {}): Question {
  return { who, in: "", doors: true, at: "", factor: true, actingFor: "", ...more };
}

/** The question who can: one of what, one of where. */
export interface WhoAsked {
  permission?: string;
  accessClass?: string;
  risk?: string;
  on?: string;
  below?: string;
  collection?: string;
  at?: string;
  secondFactor: boolean;
}

/** The question how somebody, or anyone, could grant themselves an access. */
export interface EscalationAsked {
  /** A principal; without it, everyone. */
  who?: string;
  permission?: string;
  on?: string;
  at?: string;
  changes?: string;
}

/** The question how two accesses differ. */
export interface DifferAsked {
  /** A principal, `role:K`, `pattern:K`, or `colleagues:K` for those of a principal. */
  one: string;
  other: string;
  in?: string;
  at?: string;
  otherAt?: string;
  revision?: string;
  otherRevision?: string;
  draft?: string;
  otherDraft?: string;
}

function address(path: string, asked: object): string {
  const params = new URLSearchParams();
  for (const [name, value] of Object.entries(asked)) {
    if (value !== undefined && value !== "") params.set(name, String(value));
  }
  return `${path}?${params.toString()}`;
}

/** The server's address of the answer, for downloads. */
export function whoAddress(asked: WhoAsked): string {
  return address("/api/ask/who", asked);
}

/** The page of the question. */
export function escalationPage(asked: EscalationAsked): string {
  return address("/ask/escalation", asked);
}

export function escalationAddress({ who, on, permission, at, changes }: EscalationAsked): string {
  return address("/api/ask/escalation", { principal: who, permission, resource: on, at, changes });
}

export function accessAddress(question: Question): string {
  const { who, in: within, doors, at, factor, actingFor, on, draft, revision, asActive } = question;
  return address("/api/ask/access", {
    principal: who,
    in: within,
    doors,
    at,
    secondFactor: factor,
    actingFor,
    on: on?.join(","),
    draft,
    revision,
    asActive: asActive ? true : undefined,
  });
}

export function routesAddress(question: Question, permission: string, resource: string): string {
  return address("/api/ask/routes", {
    principal: question.who,
    permission,
    resource,
    at: question.at,
    secondFactor: question.factor,
    actingFor: question.actingFor,
    on: question.on?.join(","),
    draft: question.draft,
    revision: question.revision,
    asActive: question.asActive ? true : undefined,
  });
}

export function differAddress(asked: DifferAsked): string {
  return address("/api/ask/difference", asked);
}

/** The person on a side of a comparison, if it is one. */
export function personIn(side: string): string | undefined {
  return side && !side.includes(":") ? side : undefined;
}

/** An instant as a question says it. */
export function momentInWords(at: string | undefined): string {
  return at ? dateOf(at) : "today";
}

const INSTANT = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\dZ$/;

export function questionOf(params: URLSearchParams, self: string, account: string): Question {
  return {
    who: params.get("who") ?? self,
    in: params.get("in") ?? account,
    doors: params.get("doors") === "1",
    at: params.get("at") ?? "",
    factor: params.get("factor") === "1",
    actingFor: params.get("for") ?? "",
    ...(params.get("with") && { on: (params.get("with") ?? "").split(",") }),
    ...(params.get("draft") && { draft: params.get("draft") ?? "" }),
    ...(params.get("revision") && { revision: params.get("revision") ?? "" }),
    ...(params.get("active") === "1" && { asActive: true }),
  };
}

/** What is wrong with an instant in an address; undefined where nothing is. */
export function faultOf(at: string): string | undefined {
  if (at === "" || (INSTANT.test(at) && !Number.isNaN(Date.parse(at)))) return undefined;
  return `“${at}” is not a date and time. Write it as 2026-05-01T09:00:00Z, or choose a date above.`;
}

export interface Mark {
  permission: Permission;
  verdict: MarkVerdict;
  /** Share of the resources it applies to, 0 to 1. */
  share: number;
  cell: Cell;
}

/** What a cell shows: the strongest verdict in the region, and its share of it. */
export function markOf(cell: Cell, permission: Permission): Mark {
  const verdict: MarkVerdict =
    cell.allowed > 0
      ? "allowed"
      : cell.blocked > 0
        ? "blocked"
        : cell.denied > 0
          ? "denied"
          : "none";
  const counted = { allowed: cell.allowed, blocked: cell.blocked, denied: cell.denied, none: 0 };
  return { permission, verdict, share: counted[verdict] / Math.max(1, cell.applicable), cell };
}

/** A region's marks by class, in one fixed order; Mandala's own permissions only where held. */
export function marksOf(
  region: Region,
  permissions: Map<string, Permission>,
): Record<AccessClass, Mark[]> {
  const marks: Record<AccessClass, Mark[]> = { view: [], change: [], administer: [] };
  for (const cell of region.cells) {
    const permission = permissions.get(cell.permission);
    if (!permission) continue;
    const mark = markOf(cell, permission);
    const supplied = permission.key.startsWith("mandala.");
    if (mark.verdict !== "none" || !supplied || region.shape === "organisation") {
      marks[permission.accessClass as AccessClass].push(mark);
    }
  }
  return marks;
}

/** The marks that fit, without empty ones where there are too many; and how many are left out. */
export function fitting(marks: Mark[], room: number): { shown: Mark[]; more: number } {
  if (marks.length <= room) return { shown: marks, more: 0 };
  const telling = marks.filter((mark) => mark.verdict !== "none");
  const shown = telling.slice(0, room);
  return { shown, more: telling.length - shown.length };
}

export function verdictInWords(mark: Mark): string {
  const of = `${mark.cell[mark.verdict === "none" ? "applicable" : mark.verdict]} of ${mark.cell.applicable}`;
  switch (mark.verdict) {
    case "allowed":
      return mark.share === 1 ? "allowed" : `allowed on ${of}`;
    case "blocked":
      return mark.share === 1
        ? "blocked, a gate is missing"
        : `blocked on ${of}, a gate is missing`;
    case "denied":
      return mark.share === 1 ? "denied" : `denied on ${of}`;
    case "none":
      return "not granted";
    default:
      return mark.verdict satisfies never;
  }
}

/** A row of the table: a region at a depth. */
export interface TableRow {
  id: string;
  region: Region;
  depth: number;
  /** Whether there is anything below. */
  folds: boolean;
  open: boolean;
}

export function idOf(region: Region, parent: string): string {
  return `${parent}/${region.shape === "alike" ? "~" : ""}${region.shape === "organisation" ? "=" : ""}${region.resource}`;
}

/** How a table of regions is unfolded and ordered. */
export interface Unfolding {
  unfolded: Set<string>;
  /** The loaded contents of regions that have more, by resource. */
  inside?: Map<string, Region[]>;
  /** Orders the regions of one parent; without it they stand as answered. */
  order?: ((a: Region, b: Region) => number) | undefined;
}

/** The visible rows: the regions, and what is below those that are unfolded. */
export function rowsOf(
  regions: Region[],
  unfolding: Unfolding,
  parent = "",
  depth = 0,
): TableRow[] {
  const { unfolded, inside, order } = unfolding;
  return (order ? regions.toSorted(order) : regions).flatMap((region) => {
    const id = idOf(region, parent);
    const open = unfolded.has(id);
    const below = region.more ? (inside?.get(region.resource) ?? []) : region.below;
    const row = { id, region, depth, folds: region.more || below.length > 0, open };
    return [row, ...(open ? rowsOf(below, unfolding, id, depth + 1) : [])];
  });
}

/**
 * Orders regions by name, or by how many permissions of a class are allowed in them.
 *
 * @param column a class, or anything else for the name
 */
export function regionOrder(
  column: string,
  order: "ascend" | "descend" | null,
  permissions: Map<string, Permission>,
): ((a: Region, b: Region) => number) | undefined {
  if (!order) return undefined;
  const sign = order === "ascend" ? 1 : -1;
  const byClass = CLASSES.find((it) => it === column);
  if (!byClass) return (a, b) => sign * a.name.localeCompare(b.name);
  const allowed = (region: Region) =>
    marksOf(region, permissions)[byClass].filter((it) => it.verdict === "allowed").length;
  return (a, b) => sign * (allowed(a) - allowed(b)) || a.name.localeCompare(b.name);
}

/** The regions that a sector of the figure stands for. */
export function narrowed(regions: Region[], sector: string | undefined): Region[] {
  if (!sector) return regions;
  const organisation = sector.startsWith("organisation:");
  const key = organisation ? sector.slice("organisation:".length) : sector;
  const found = find(regions, key, organisation);
  return found ? [found] : regions;
}

function find(regions: Region[], key: string, organisation: boolean): Region | undefined {
  for (const region of regions) {
    if (region.resource === key && (region.shape === "organisation") === organisation)
      return region;
    const below = find(region.below, key, organisation);
    if (below) return below;
  }
  return undefined;
}

export function countRegions(regions: Region[]): number {
  return regions.reduce((sum, region) => sum + 1 + countRegions(region.below), 0);
}

export function sizeOf(regions: Region[]): number {
  return regions.reduce((sum, region) => sum + region.size, 0);
}

export function riskOf(permission: Permission): Risk {
  return permission.risk as Risk;
}

export { CLASSES };
