import dayjs from "dayjs";
import { listed } from "@/shared/lib/words";
import type { Effects, EventRule, RoundOrder } from "./queries";

export type Content = RoundOrder["contents"][number];
export type Risk = RoundOrder["risk"];

/** What a round can ask about, as the sentence says it. */
export const CONTENTS: Record<Content, string> = {
  people: "people",
  guests: "guests",
  services: "services",
  groups: "groups",
  roles: "permissions in roles",
  patterns: "patterns",
  everybody: "what everyone has",
  bridges: "cross-account access",
  delegations: "delegations",
  exemptions: "exemptions from exclusions",
  owners: "owners",
};

export const RISK_WORDS: Record<Risk, string> = {
  low: "all access",
  moderate: "all access of moderate risk or more",
  high: "all access to high and critical permissions",
  critical: "all access to critical permissions",
};

export type Event = EventRule["event"];

/** What makes a small review by itself, as the sentence says it. */
export const EVENTS: Record<Event, string> = {
  moved: "somebody moves",
  widened: "a role is widened",
  ending: "a guest's end comes near",
  given: "access is given",
};

/** An event in words; of an end, how many days before it. */
export const eventInWords = (event: Event, within: number) =>
  event === "ending" ? `a guest's end is ${within} days away` : EVENTS[event];

/** The rule that one begins with. */
export const newRule = (account: string | undefined): EventRule => ({
  title: "Movers",
  event: "moved",
  accounts: account ? [account] : [],
  risk: "low",
  within: 14,
  stages: [{ order: ["manager", "account-owner"] }],
  days: 7,
  passOn: true,
});

export const ONLY_WORDS: Record<RoundOrder["only"], string> = {
  all: "whether or not it was reviewed before",
  new: "only what is new or changed since the last round",
  never: "only what was never reviewed",
};

export type RoundEffect = NonNullable<RoundOrder["effect"]>;

/** When decisions take effect, as the sentence says it. */
export const CARRIED: Record<RoundEffect["carried"], string> = {
  "at-once": "within minutes",
  daily: "once a day",
  "at-end": "when the round ends",
};

/** What becomes of what nobody decides, as the sentence says it. */
export const UNDECIDED: Record<RoundEffect["undecided"], string> = {
  keep: "is kept and reported",
  suspend: "is suspended where it can end, else kept",
  remove: "is removed",
};

/** How a round's decisions take effect; what an order leaves out is as usual. */
export const effectOf = (order: RoundOrder): RoundEffect =>
  order.effect ?? {
    carried: "at-end",
    remind: 3,
    escalate: false,
    grace: 0,
    undecided: "keep",
  };

/** What became of decisions, in words: only what there is. */
export function effectsInWords(it: Effects): string[] {
  return [
    it.inForce > 0 && `${it.inForce} in force`,
    it.due > 0 && `${it.due} to take effect`,
    it.waiting > 0 && `${it.waiting} waiting for an approval`,
    it.returned > 0 && `${it.returned} came back`,
    it.answered > 0 && `${it.answered} answered for`,
    it.before !== undefined &&
      it.after !== undefined &&
      `exposure ${it.before.toLocaleString("en")} → ${it.after.toLocaleString("en")}`,
  ].filter((word) => word !== false);
}

export const REPEATS_WORDS: Record<RoundOrder["repeats"], string> = {
  never: "once",
  monthly: "every month",
  quarterly: "every quarter",
  yearly: "every year",
};

/** Who can decide, as the sentence says it; a person by name is said elsewhere. */
export const DECIDERS: Record<string, string> = {
  manager: "their managers",
  sponsor: "whoever answers for them",
  "place-owner": "the owner of the place",
  "thing-owner": "an owner of the group or role",
  "account-owner": "an owner of the account",
};

/** A stage in words, with the names of people: "their managers, else Ilse Varga". */
export function stageInWords(order: string[], nameOf: (key: string) => string): string {
  const words = order.map((it) =>
    it.startsWith("person:") ? nameOf(it.slice(7)) : (DECIDERS[it] ?? it),
  );
  return words.length === 0 ? "no one yet" : words.join(", else ");
}

export const contentsInWords = (contents: string[]) =>
  listed(contents.map((it) => CONTENTS[it as Content]));

/** A usual round to begin with. */
export interface Template {
  key: string;
  name: string;
  order: Partial<RoundOrder>;
  /** How many days reviewers have. */
  days: number;
}

export const TEMPLATES: Template[] = [
  {
    key: "quarterly",
    name: "Quarterly, high and critical",
    order: { contents: ["people", "guests"], risk: "high", repeats: "quarterly" },
    days: 14,
  },
  {
    key: "guests",
    name: "Guests",
    order: {
      contents: ["guests"],
      risk: "low",
      stages: [{ order: ["sponsor", "manager"] }],
    },
    days: 14,
  },
  {
    key: "movers",
    name: "Movers",
    order: { contents: ["people"], risk: "low", detectors: ["left-over"] },
    days: 7,
  },
  {
    key: "services",
    name: "Services",
    order: { contents: ["services"], risk: "low", stages: [{ order: ["sponsor"] }] },
    days: 14,
  },
  {
    key: "administrators",
    name: "Administrators",
    order: {
      contents: ["people", "groups", "owners"],
      risk: "critical",
      stages: [{ order: ["account-owner", "manager"] }],
    },
    days: 14,
  },
  {
    key: "dormant",
    name: "Unused access",
    order: { contents: ["people", "services"], risk: "low", detectors: ["unused-assignment"] },
    days: 14,
  },
];

const day = (it: dayjs.Dayjs) => `${it.format("YYYY-MM-DD")}T00:00:00Z`;

/** The order that a template begins with: from today, in an account or in all. */
export function orderOf(template: Template, account: string | undefined, now: Date): RoundOrder {
  return {
    title: template.name,
    contents: ["people"],
    accounts: account ? [account] : [],
    risk: "high",
    only: "all",
    detectors: [],
    stages: [{ order: ["manager", "place-owner"] }],
    begins: day(dayjs(now)),
    ends: day(dayjs(now).add(template.days, "day")),
    passOn: true,
    controls: 0,
    repeats: "never",
    ...template.order,
  };
}

/** Whether a round begins now, and is made at once. */
export const beginsNow = (order: RoundOrder, now: Date) =>
  Date.parse(order.begins) <= now.getTime();

/** How fast somebody decides, in words. */
export function paceInWords(seconds: number | undefined): string {
  if (seconds === undefined) return "";
  if (seconds < 90) return `${Math.round(seconds)} s`;
  return seconds < 5400 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds / 3600)} h`;
}

/** Whether somebody seems to wave items through: nearly all kept, within seconds, or a control kept. */
export function isHasty(it: {
  kept: number;
  keeps?: number;
  pace?: number;
  controlsKept: number;
}): boolean {
  return (
    it.controlsKept > 0 ||
    (it.kept >= 5 && (it.keeps ?? 0) > 0.95 && it.pace !== undefined && it.pace < 5)
  );
}
