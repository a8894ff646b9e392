import type { PickKind } from "@/entities/thing/pickable";

/** What the list can be filtered by besides state, job and name; the page's address has the same. */
export const FILTERS = [
  "unit",
  "group",
  "role",
  "manager",
  "kind",
  "unseen",
  "ends",
  "factor",
  "signIn",
  "exposed",
] as const;

export type FilterName = (typeof FILTERS)[number];

/** What the list can be grouped by. */
export const GROUPINGS = ["account", "unit", "manager", "role", "group"];

/** In place of a key: whoever has none. */
export const NONE = "-";

interface ByThing {
  label: string;
  things: PickKind;
  /** Precedes the name. */
  words: string;
  none: string;
}

interface ByChoice {
  label: string;
  choices: { value: string; label: string }[];
}

function choices(...all: [string, string][]): { value: string; label: string }[] {
  return all.map(([value, label]) => ({ value, label }));
}

const DAYS = ["7", "30", "60", "90", "180"];

export const FILTER_OF: Record<FilterName, ByThing | ByChoice> = {
  unit: { label: "Unit", things: "units", words: "in the unit", none: "without a unit" },
  group: { label: "Group", things: "groups", words: "in the group", none: "in no group" },
  role: { label: "Role", things: "roles", words: "with the role", none: "without a role" },
  manager: {
    label: "Manager",
    things: "principals",
    words: "reporting to",
    none: "without a manager",
  },
  kind: {
    label: "Kind",
    choices: choices(
      ["person", "persons only"],
      ["service", "services only"],
      ["guest", "guests only"],
    ),
  },
  unseen: {
    label: "Last seen",
    choices: DAYS.map((it) => ({ value: it, label: `not seen for ${it} days` })),
  },
  ends: {
    label: "End of their time",
    choices: DAYS.map((it) => ({ value: it, label: `ending within ${it} days` })),
  },
  factor: {
    label: "Second factor",
    choices: choices(["yes", "with a second factor"], ["no", "without a second factor"]),
  },
  signIn: {
    label: "Sign-in",
    choices: choices(["password", "with a password"], ["none", "without a password"]),
  },
  exposed: {
    label: "Exposure",
    choices: ["100", "1000", "10000"].map((it) => ({
      value: it,
      label: `with an exposure of ${Number(it).toLocaleString("en")} or more`,
    })),
  },
};

/** A filter that is set, in words; a thing's name is put in by whoever knows it. */
export function wordsOf(name: FilterName, value: string, thing: string): string {
  const it = FILTER_OF[name];
  if ("things" in it) return value === NONE ? it.none : `${it.words} ${thing}`;
  const known = it.choices.find((each) => each.value === value)?.label;
  return known ?? `${it.label.toLowerCase()}: ${value}`;
}

/** The filters of an address. */
export function filtersOf(params: URLSearchParams): Partial<Record<FilterName, string>> {
  return Object.fromEntries(
    FILTERS.flatMap((it) => {
      const value = params.get(it);
      return value ? [[it, value]] : [];
    }),
  );
}
