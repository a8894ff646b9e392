import type { Schemas } from "@/shared/api/client";

export type Token = Schemas["TokenView"];

export const STATE: Record<Token["state"], string> = {
  active: "Active",
  resting: "Rests: whose rights it has is not active",
  ended: "Ended",
  revoked: "Revoked",
};

/** What a token can be for, and how that is said. */
const PURPOSES: Record<string, string> = {
  access: "Ask about access",
  directory: "Read people, places and rights",
  findings: "Read findings",
  trail: "Read the trail and revisions",
  use: "Report use of access",
};

/** How a purpose is said. */
export function purposeOf(word: string): string {
  return PURPOSES[word] ?? word;
}

/** What tokens can be for on all of some accounts, in the order in which it is offered. */
export function purposesOn(makeable: Schemas["Makeable"][], accounts: string[]): string[] {
  return Object.keys(PURPOSES).filter((purpose) =>
    accounts.every((account) =>
      makeable.some((it) => it.account === account && it.purposes.includes(purpose)),
    ),
  );
}

/** How long a token can hold, in days. */
export const HOLDS = [
  { value: 7, label: "a week" },
  { value: 30, label: "30 days" },
  { value: 90, label: "90 days" },
  { value: 365, label: "a year" },
];

/** The instant some days after another, to the second. */
export function endAfter(days: number, now: Date): string {
  return new Date(now.getTime() + days * 86_400_000).toISOString().replace(/\.\d+/, "");
}
