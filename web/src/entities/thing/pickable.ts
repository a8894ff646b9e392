import { answerOf, api, Problem } from "@/shared/api/client";
import { textOf } from "@/shared/lib/thing";
import { DRAFT } from "./queries";

/** A kind of thing that can be chosen; `askable` people are those the viewer may ask about. */
export type PickKind =
  | "askable"
  | "principals"
  | "groups"
  | "roles"
  | "permissionSets"
  | "permissions"
  | "places"
  | (string & {});

/** Something to choose. */
export interface Pickable {
  /** As assignments and groups refer to it: `person:K`, `role:K`; of places and others the key. */
  ref: string;
  key: string;
  kind: PickKind;
  name: string;
  /** What tells it from others of its name. */
  note?: string | undefined;
  /** The account that it belongs to, by key. */
  account?: string | undefined;
}

/** What tells something from others of its name: its note, else the name of its account. */
export function noteOf(it: Pickable, accountName: (key: string) => string): string {
  return it.note ?? (it.account === undefined ? "" : accountName(it.account));
}

/** What a kind is called as a filter, and the prefix of its references. */
const KINDS: Record<string, { label: string; prefix?: string }> = {
  askable: { label: "People" },
  principals: { label: "People" },
  groups: { label: "Groups", prefix: "group" },
  roles: { label: "Roles", prefix: "role" },
  permissionSets: { label: "Sets", prefix: "set" },
  permissions: { label: "Permissions", prefix: "permission" },
  patterns: { label: "Patterns", prefix: "pattern" },
  accounts: { label: "Accounts", prefix: "account" },
  places: { label: "Places" },
};

/** Choices of one kind that one search shows. */
const SHOWN = 40;

export function labelOf(kind: PickKind): string {
  return KINDS[kind]?.label ?? kind;
}

async function askable(text: string, account: string | undefined): Promise<Pickable[]> {
  const query = { text, limit: SHOWN, ...(account && { account }) };
  const found = await answerOf(api.GET("/api/people/choices", { params: { query } }));
  return found.map((it) => ({
    ref: `${it.kind}:${it.key}`,
    key: it.key,
    kind: "askable",
    name: it.name,
    note: [it.title, it.accountName].filter(Boolean).join(", "),
  }));
}

async function places(text: string, account: string | undefined): Promise<Pickable[]> {
  const query = { text, draft: DRAFT, limit: SHOWN, ...(account && { account }) };
  const found = await answerOf(api.GET("/api/places/choices", { params: { query } }));
  return found.map((it) => ({
    ref: it.key,
    key: it.key,
    kind: "places",
    name: it.name,
    note: `${it.typeName}, ${it.account}`,
  }));
}

interface Wanted {
  kind: PickKind;
  text: string;
  /** The account one works in: its things come first. */
  account: string | undefined;
  /** Only what the viewer may change. */
  changeable?: boolean | undefined;
}

/** Things of one kind by part of their name, best first. None where the kind can't be listed. */
export async function findPickable(wanted: Wanted): Promise<Pickable[]> {
  const { kind, text, account, changeable } = wanted;
  if (kind === "askable") return askable(text, account);
  if (kind === "places") return places(text, account);
  const query = { text, limit: SHOWN, draft: DRAFT };
  const found = await answerOf(
    api.GET("/api/things/{kind}", { params: { path: { kind }, query } }),
  ).catch((error: unknown) => {
    if (error instanceof Problem && error.status === 403) return { things: [] };
    throw error;
  });
  return found.things.flatMap((it) => {
    if (!it.key || it.mark === "removes" || (changeable && it.cannot)) return [];
    const prefix = kind === "principals" ? textOf(it.thing, "kind") : KINDS[kind]?.prefix;
    return [
      {
        ref: prefix ? `${prefix}:${it.key}` : it.key,
        key: it.key,
        kind,
        name: it.name,
        account: it.account,
      },
    ];
  });
}

/** How well a name fits what is typed: 0 best. The server ranks each kind; this merges kinds. */
function rank(name: string, text: string): number {
  const lower = name.toLowerCase();
  if (lower === text) return 0;
  if (lower.startsWith(text)) return 1;
  return lower.includes(` ${text}`) ? 2 : 3;
}

/** Things of several kinds in one list: exact names first, then those that begin with the text. */
export function merged(lists: Pickable[][], text: string): Pickable[] {
  const all = lists.flat();
  const wanted = text.trim().toLowerCase();
  if (wanted === "") return all;
  return all
    .map((it, at) => ({ it, at, rank: rank(it.name, wanted) }))
    .sort((one, two) => one.rank - two.rank || one.at - two.at)
    .map(({ it }) => it);
}
