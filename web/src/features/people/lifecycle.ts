import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";

type TieView = Schemas["TieView"];
type FateOrder = Schemas["FateOrder"];
export type Becomes = FateOrder["becomes"];

/** What becomes of a tie, in words. */
export const BECOMES: Record<Becomes, string> = {
  keep: "Keep",
  end: "Remove",
  until: "Keep until the end of the grace time",
  hand: "Hand over",
};

/** What can become of a tie in an act. */
export function choicesOf(tie: TieView, grace: boolean): Becomes[] {
  const duty: Becomes[] = tie.sort === "duty" ? ["hand"] : [];
  const until: Becomes[] =
    grace && tie.sort !== "duty" && tie.sort !== "statement" ? ["until"] : [];
  return ["keep", "end", ...until, ...duty];
}

/** The fates of ties: the usual ones, and those that were chosen otherwise. */
export function fatesOf(
  ties: TieView[],
  chosen: Record<string, FateOrder>,
): Record<string, FateOrder> {
  return Object.fromEntries(ties.map((it) => [it.id, chosen[it.id] ?? { becomes: it.usually }]));
}

/** Whether somebody is named for all that is handed over. */
export function isComplete(fates: Record<string, FateOrder>): boolean {
  return Object.values(fates).every((it) => it.becomes !== "hand" || (it.to ?? "") !== "");
}

/** Names of the ties that a copy has unless chosen otherwise. */
export function usualCopy(ties: TieView[]): string[] {
  return copyable(ties)
    .filter((it) => it.exception === undefined)
    .map((it) => it.id);
}

/** The ties that a copy can have. */
export function copyable(ties: TieView[]): TieView[] {
  return ties.filter((it) => it.sort === "access" && it.exception !== "Can't be copied");
}

/** How many colleagues have something, in words. */
export function shareInWords(share: Schemas["ShareView"] | undefined): string {
  if (!share || share.of === 0) return "";
  return `${share.have} of ${share.of}`;
}

/** The end of a day, as an instant; undefined for none. */
export function instantOf(day: string): string | undefined {
  return day === "" ? undefined : `${day}T00:00:00Z`;
}

/** What else somebody has, in sentences. */
export function standingInWords(it: Schemas["StandingView"]): string[] {
  const facts: string[] = [];
  if (it.sessions > 0) facts.push(`${count(it.sessions, "open session")} will end.`);
  if (it.tokens > 0) facts.push(`${count(it.tokens, "token")} will be revoked.`);
  if (it.drafts > 0) facts.push(`${count(it.drafts, "draft")} will be discarded.`);
  if (it.rounds > 0)
    facts.push(`${count(it.rounds, "review")} will wait until somebody takes over.`);
  if (it.items > 0) facts.push(`${count(it.items, "review item")} will go to the next reviewer.`);
  for (const role of it.soleHolder)
    facts.push(`No one else that you can see holds the role ${role}.`);
  return facts;
}

/** What became of the work that was handed over to somebody, in sentences. */
export function handedInWords(it: Schemas["HandedWork"], to: string): string[] {
  const said: string[] = [];
  const gone = [
    ...(it.drafts > 0 ? [count(it.drafts, "draft")] : []),
    ...(it.items > 0 ? [count(it.items, "review item")] : []),
  ];
  if (gone.length > 0) said.push(`${to} has ${gone.join(" and ")} now.`);
  if (it.rounds > 0)
    said.push(`${to} was asked to take over ${count(it.rounds, "review")}, by a notice.`);
  if (it.draftsLeft > 0)
    said.push(
      `${count(it.draftsLeft, "draft stays", "drafts stay")}: ${to} can't read all of it or has too many.`,
    );
  if (it.itemsLeft > 0)
    said.push(
      `${count(it.itemsLeft, "review item stays", "review items stay")}: you don't run the review, or ${to} is concerned.`,
    );
  if (it.roundsLeft > 0)
    said.push(
      `${count(it.roundsLeft, "review stays", "reviews stay")}: the access of ${to} does not cover it.`,
    );
  return said;
}
