import type { Trim } from "@/entities/access/excess";

/** What may be trimmed, and how far. */
export interface Options {
  /** Whether what they get together with others may change too. */
  others: boolean;
  /** Whether a group's assignment may be replaced by some to its members. */
  split: boolean;
  /** Maximum number of clauses of a narrowed scope. */
  clauses: number;
  /** What stays as it is: kinds and keys. */
  untouched: string[];
  /** On how many days at most something is used that is rarely used. */
  rareDays: number;
}

export const USUAL: Options = {
  others: false,
  split: true,
  clauses: 24,
  untouched: [],
  rareDays: 5,
};

/** What becomes of something that is rarely used. */
export type RareFate = "leave" | "just-in-time" | "end";

/** The choice that the server takes, or why it can't be made yet. */
export function choiceOf(steps: number, fates: Record<string, RareFate>, until: string) {
  const those = (fate: RareFate) =>
    Object.entries(fates)
      .filter(([, it]) => it === fate)
      .map(([key]) => key);
  const ending = those("end");
  const justInTime = those("just-in-time");
  return {
    steps,
    ...(justInTime.length > 0 && { justInTime }),
    ...(ending.length > 0 && { ending, until }),
  };
}

/** Where the slider begins: where only what nobody needs is removed, else after all changes. */
export function firstStop(trim: Trim): number {
  const narrowed = trim.steps.findIndex((it) => it.narrowed);
  const ends = narrowed < 0 ? trim.steps.length : narrowed;
  const stop = trim.points.findLastIndex((it) => it.steps <= ends);
  return Math.max(0, stop);
}
