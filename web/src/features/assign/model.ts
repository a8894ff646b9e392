import { flagOf, listOf, textOf, type Edit, type Thing } from "../../lib/thing";

/** Somebody or something by reference, `group:K`, and name. */
export interface Named {
  ref: string;
  name: string;
}

/** One term of a clause, as its builder shows it. */
export interface TermChoice {
  term: string;
  value: unknown;
  name: string;
}

export interface Plan {
  subjects: Named[];
  gives: Named | undefined;
  denies: boolean;
  scope: Clause[];
  viewScope: Clause[];
  from: string;
  until: string;
  justInTime: boolean;
  crossesSeals: boolean;
}

export type Clause = Thing;

export const EMPTY_PLAN: Plan = {
  subjects: [],
  gives: undefined,
  denies: false,
  scope: [],
  viewScope: [],
  from: "",
  until: "",
  justInTime: false,
  crossesSeals: false,
};

/** The plan of an assignment that is there. */
export function planOf(thing: unknown, subject: Named, gives: Named): Plan {
  return {
    subjects: [subject],
    gives,
    denies: textOf(thing, "effect") === "deny",
    scope: listOf<Clause>(thing, "scope"),
    viewScope: listOf<Clause>(thing, "viewScope"),
    from: textOf(thing, "from").slice(0, 10),
    until: textOf(thing, "until").slice(0, 10),
    justInTime: textOf(thing, "mode") === "just-in-time",
    crossesSeals: flagOf(thing, "crossesSeals"),
  };
}

function fieldsOf(plan: Plan, gives: Named): Thing {
  return {
    gives: gives.ref,
    ...(plan.denies && gives.ref.startsWith("permission:") && { effect: "deny" }),
    scope: plan.scope,
    ...(plan.viewScope.length > 0 && { viewScope: plan.viewScope }),
    ...(plan.from && { from: `${plan.from}T00:00:00Z` }),
    ...(plan.until && { until: `${plan.until}T00:00:00Z` }),
    ...(plan.justInTime && { mode: "just-in-time" }),
    ...(plan.crossesSeals && { crossesSeals: true }),
  };
}

/** The edits that make a plan true: one assignment for each subject, or the one that is changed. */
export function editsOf(plan: Plan, existing: string | undefined, also: Named[] = []): Edit[] {
  const { gives } = plan;
  if (!gives) return [];
  return plan.subjects.flatMap((subject) =>
    [gives, ...(existing ? [] : also)].map((it): Edit => {
      const after = { subject: subject.ref, ...fieldsOf(plan, it) };
      return existing
        ? { kind: "assignments", key: existing, after: { key: existing, ...after } }
        : { kind: "assignments", after };
    }),
  );
}

/** Whether a clause of a scope covers everything there is, and no other term of it narrows that. */
export function coversEverything(scope: Clause[]): boolean {
  return scope.some((clause) => Object.keys(clause).join() === "everything");
}

/** What is missing before a plan can go into the draft; nothing where it can. */
export function missing(plan: Plan, everything: boolean, sure: boolean): string | undefined {
  if (plan.subjects.length === 0) return "Choose who.";
  if (!plan.gives) return "Choose what they get.";
  if (plan.scope.length === 0) return "Choose where: nothing chosen covers nothing.";
  if (plan.from && plan.until && plan.from >= plan.until) return "It ends before it begins.";
  if (everything && !sure) return "This covers everything. Confirm to continue.";
  return undefined;
}

const WORDS: Record<string, string> = {
  tree: "tree of",
  only: "only",
  account: "account",
  collection: "collection",
  type: "of the type",
  unit: "unit",
  owner: "owned by",
};

/** A clause in words; names where they are known. */
export function clauseInWords(clause: Clause, names: Map<string, string>): string {
  return Object.entries(clause)
    .map(([term, value]) => {
      if (term === "everything") return "everything";
      if (term === "labels") {
        return Object.entries(value as Record<string, string>)
          .map(([name, it]) => `${name} ${it}`)
          .join(", ");
      }
      if (value === "own") return `own ${term}`;
      if (term === "owner") {
        return { self: "own records", team: "their team's records", none: "nobody's records" }[
          String(value)
        ];
      }
      return `${WORDS[term] ?? term} ${names.get(`${term}:${String(value)}`) ?? String(value)}`;
    })
    .join(", ");
}
