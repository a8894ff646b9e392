import type { Schemas } from "@/shared/api/client";

/** What a draft is called: its name, else what it does. */
export function nameOf(draft: { name?: string; proposedName?: string }): string {
  return (
    [draft.name, draft.proposedName].find((it) => it !== undefined && it !== "") ?? "New draft"
  );
}

/** A draft's state in words. */
export function stateOf(draft: Pick<Schemas["Summary"], "state" | "appliedAs">): string {
  if (draft.appliedAs !== undefined) return `applied as revision ${draft.appliedAs}`;
  if (draft.state === "open") return "active";
  return draft.state === "aside" ? "open" : draft.state;
}

/** Whether a change may be meant for another draft than the active one. */
export function isDoubtful(draft: Schemas["Summary"]): boolean {
  return draft.takesBack !== undefined || draft.foreign;
}
