import type { Clause } from "@/entities/scope/model";
import type { Named } from "@/entities/subject/model";
import { flagOf, listOf, textOf, type Edit, type Thing } from "@/shared/lib/thing";

/** What the form of an assignment holds. From and until are instants in UTC, or empty. */
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

/** The plan of an existing assignment. */
export function planOf(thing: unknown, subject: Named, gives: Named): Plan {
  return {
    subjects: [subject],
    gives,
    denies: textOf(thing, "effect") === "deny",
    scope: listOf<Clause>(thing, "scope"),
    viewScope: listOf<Clause>(thing, "viewScope"),
    from: textOf(thing, "from"),
    until: textOf(thing, "until"),
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
    ...(plan.from && { from: plan.from }),
    ...(plan.until && { until: plan.until }),
    ...(plan.justInTime && { mode: "just-in-time" }),
    ...(plan.crossesSeals && { crossesSeals: true }),
  };
}

/** The edits of a plan: one new assignment for each subject, or the one that is edited. */
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

/** What keeps a plan from being added to the draft; undefined where nothing does. */
export function missing(plan: Plan, everything: boolean, confirmed: boolean): string | undefined {
  if (plan.subjects.length === 0) return "Choose who.";
  if (!plan.gives) return "Choose what to grant.";
  if (plan.scope.length === 0) return "Choose where. An empty scope covers nothing.";
  if (plan.from && plan.until && Date.parse(plan.from) >= Date.parse(plan.until))
    return "The end must come after the start. Choose a later day.";
  if (everything && !confirmed) return "This covers everything. Confirm to continue.";
  return undefined;
}
