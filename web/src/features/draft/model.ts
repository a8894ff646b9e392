import { count } from "@/shared/lib/words";
import type { ChangeView, DraftView, ImpactView } from "@/entities/draft/queries";

/** Changes by the kind of thing they are about, kinds in order of first appearance. */
export function byKind(changes: ChangeView[]): [string, ChangeView[]][] {
  const groups = new Map<string, ChangeView[]>();
  for (const change of changes) {
    groups.set(change.kindName, [...(groups.get(change.kindName) ?? []), change]);
  }
  return [...groups];
}

/** Findings of one rule that are listed one by one. */
const SHOWN = 3;

/** Findings by rule: the first few, and how many more there are. */
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
    said: all.slice(0, SHOWN).map((it) => it.said),
    more: Math.max(0, all.length - SHOWN),
  }));
}

/** What somebody gains and loses, in words. */
export function balance(gained: number, lost: number, rerouted = 0): string {
  const parts = [];
  if (gained > 0) parts.push(`gains ${count(gained, "right")}`);
  if (lost > 0) parts.push(`loses ${count(lost, "right")}`);
  if (rerouted > 0) parts.push(`keeps ${count(rerouted, "right")} by another route`);
  return parts.join(", ") || "keeps the same access";
}

/** What keeps its author from applying a draft, each with the next step. */
export function obstaclesOf(draft: DraftView): string[] {
  const refused = draft.refusals.length > 0 || draft.changes.some((it) => it.refusals.length > 0);
  const approved = draft.approvals.some((it) => it.counts);
  return [
    draft.changes.length === 0 && "This draft is empty. Change something on any page first.",
    draft.clashes.length > 0 && "Choose which version to keep of what somebody else changed too.",
    draft.faults.length > 0 && "Fix the errors listed above.",
    refused &&
      (draft.appliers.length > 0
        ? "Your access does not cover all of these changes. Remove those marked above, or propose the draft to somebody who can apply it."
        : "Your access does not cover all of these changes. Remove those marked above."),
    draft.needs.reason && !draft.reason && "Add a reason above: the policy asks for one.",
    draft.needs.reference && !draft.reference && "Add a reference above: the policy asks for one.",
    draft.judging && "Checking whether a second person must approve it…",
    draft.reasons.length > 0 && !approved && "A second person must approve it first.",
  ].filter((it): it is string => typeof it === "string");
}

/** Who is touched by a draft without gaining or losing anything. */
export function keptInWords(impact: ImpactView): string {
  if (impact.unchanged === 0) return "";
  const one = impact.unchanged === 1;
  const more = impact.gaining + impact.losing > 0 ? "more " : "";
  const kept = `${count(impact.unchanged, `${more}person`, `${more}people`)} ${one ? "is" : "are"} affected and ${one ? "keeps" : "keep"} the same access`;
  const rerouted = impact.rerouted ?? 0;
  return rerouted > 0
    ? `${kept}; ${count(rerouted, "right")} of ${count(impact.reroutedPeople, "person", "people")} only ${rerouted === 1 ? "changes its" : "change their"} route.`
    : `${kept}.`;
}
