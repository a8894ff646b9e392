import type { Thing } from "@/shared/lib/thing";

/** One clause of a scope in the document form: terms by name; all of them must hold. */
export type Clause = Thing;

/** The terms of a clause, as the scope builder offers them; `=` gives a fixed value. */
export const TERMS = [
  { value: "tree", label: "A place and everything below it" },
  { value: "only", label: "One place alone" },
  { value: "account", label: "One account, without its sub-accounts" },
  { value: "collection", label: "A collection" },
  { value: "type", label: "Places of one type" },
  { value: "unit", label: "The places of a unit" },
  { value: "labels", label: "Places with a label" },
  { value: "account=own", label: "Their own account" },
  { value: "unit=own", label: "Their own unit, and the units they reach" },
  { value: "owner=self", label: "Records they own" },
  { value: "owner=team", label: "Records their team owns" },
  { value: "owner=none", label: "Records without an owner" },
  { value: "everything", label: "Everything" },
];

/** Whether a clause covers everything there is and has no other term that narrows it. */
export function coversEverything(scope: Clause[]): boolean {
  return scope.some((clause) => Object.keys(clause).join() === "everything");
}

const WORDS: Record<string, string> = {
  tree: "everything in",
  only: "only",
  account: "account",
  collection: "collection",
  type: "type",
  unit: "unit",
  owner: "owned by",
};

const OWNERS: Record<string, string> = {
  self: "records they own",
  team: "records their team owns",
  none: "records without an owner",
};

/** A clause in words; keys stand for names that are not known. */
export function clauseInWords(clause: Clause, names: Map<string, string>): string {
  return Object.entries(clause)
    .map(([term, value]) => {
      if (term === "everything") return "everything";
      if (term === "labels") {
        return Object.entries((value ?? {}) as Record<string, string>)
          .map(([name, it]) => `${name} ${it}`)
          .join(", ");
      }
      if (value === "own") return `their own ${term}`;
      if (term === "owner" && OWNERS[String(value)]) return OWNERS[String(value)];
      return `${WORDS[term] ?? term} ${names.get(`${term}:${String(value)}`) ?? String(value)}`;
    })
    .join(", ");
}

/** The kind of thing that a term's value is a key of. */
export const KIND_OF_TERM: Record<string, string> = {
  tree: "resources",
  only: "resources",
  account: "accounts",
  collection: "collections",
  type: "resourceTypes",
  unit: "units",
};
