import { count, dayOf } from "@/shared/lib/words";
import type { Item, ItemDetail } from "./queries";

/** Items of one person or thing, the harmful first. */
export interface Subject {
  key: string;
  name: string;
  note: string | undefined;
  items: Item[];
}

const RISKS = ["low", "moderate", "high", "critical"];

/** How harmful an item may be, for sorting: by risk, then by what it weighs. */
const harmOf = (it: Item): [number, number] => [RISKS.indexOf(it.risk ?? "low"), it.exposure];

function byHarm(one: Item, other: Item): number {
  const [risk, weight] = harmOf(one);
  const [otherRisk, otherWeight] = harmOf(other);
  return otherRisk - risk || otherWeight - weight || one.number - other.number;
}

/** The items by whose they are: whoever has the most harmful first; what is gone is left out. */
export function subjectsOf(items: Item[]): Subject[] {
  const found = new Map<string, Subject>();
  for (const it of [...items].filter((each) => each.state !== "gone").sort(byHarm)) {
    const key = `${it.aboutKind}:${it.about}`;
    const subject = found.get(key) ?? { key, name: it.aboutName, note: it.aboutNote, items: [] };
    subject.items.push(it);
    found.set(key, subject);
  }
  return [...found.values()];
}

export const isLeft = (it: Item) => it.state === "open";

/** What is said of a subject in the list: how much is left, or what was decided. */
export function noteOf({ items }: Subject): string {
  const left = items.filter(isLeft);
  if (left.length > 0) {
    const remove = left.filter((it) => it.recommended === "remove").length;
    return [count(left.length, "item"), remove > 0 ? `${remove} recommended to remove` : ""]
      .filter(Boolean)
      .join(" · ");
  }
  const said = (["keep", "reduce", "remove"] as const).flatMap((verdict) => {
    const many = items.filter((it) => it.verdict === verdict).length;
    return many > 0 ? [`${many} ${PAST[verdict]}`] : [];
  });
  return ["done", ...said].join(" · ");
}

export const PAST = { keep: "kept", reduce: "reduced", remove: "removed" } as const;

export const VERDICTS = { keep: "Keep", reduce: "Reduce", remove: "Remove" } as const;

/** The next item that is left after one, in the order of the list; the first where none comes. */
export function nextLeft(subjects: Subject[], after: number | undefined): number | undefined {
  const all = subjects.flatMap((it) => it.items);
  const here = all.findIndex((it) => it.number === after);
  const rest = [...all.slice(here + 1), ...all.slice(0, here + 1)];
  return rest.find((it) => isLeft(it) && it.number !== after)?.number;
}

/** What a removal takes, in words. */
export function takesOf(it: ItemDetail): string {
  if (it.takes === undefined) return "It grants no rights by itself";
  if (it.takes === 0) {
    return it.stays ? `Nothing: ${count(it.stays, "right")} stay by something else` : "Nothing now";
  }
  const stay = it.stays ? `; ${count(it.stays, "more", "more")} stay by something else` : "";
  return `${count(it.takes, "right")}${stay}`;
}

/** Whether keeping an item asks for a reason, and why. */
export function reasonFor(it: Item): string | undefined {
  if (it.risk === "high" || it.risk === "critical") {
    return `It may grant permissions of ${it.risk} risk`;
  }
  return it.recommended && it.recommended !== "keep"
    ? `The recommendation is to ${it.recommended} it`
    : undefined;
}

/** Comparable colleagues, in words. */
export function colleaguesOf(it: ItemDetail): string {
  const { colleagues } = it;
  if (!colleagues) return "No comparable colleagues";
  const same = { pattern: "pattern", title: "title", unit: "unit" }[colleagues.basis];
  return `${colleagues.having} of ${colleagues.all} with the same ${same} have it, ${colleagues.using} use it`;
}

/** When it was used last, in words. */
export function lastUseOf({ use }: ItemDetail): string {
  if (use.last) return `last on ${dayOf(use.last)}`;
  return use.observed ? `not used` : "no system reports its use";
}
