import type { Thing } from "../../lib/thing";

/** What a field of a thing holds, and so how it is filled in. */
export type Shape =
  | "text"
  | "number"
  | "flag"
  | "date"
  | "scope"
  | "gives"
  | "limit"
  | "subjects"
  | "sides"
  | "exempt"
  | "reach"
  | "attributes"
  | { choice: string[] }
  | { one: string }
  | { many: string };

export interface FieldSpec {
  field: string;
  label: string;
  shape: Shape;
  required?: boolean;
  /** What it means, where the label does not tell. */
  note?: string;
  /** Only asked for when the thing is made: it tells which one it is. */
  fixed?: boolean;
  /** What stands for a missing value. */
  silent?: string;
}

export interface KindSpec {
  kind: string;
  one: string;
  many: string;
  /** What such a thing is for. */
  about: string;
  fields: FieldSpec[];
}

const NAME: FieldSpec = { field: "name", label: "name", shape: "text" };
const NEEDED: FieldSpec = { ...NAME, required: true };
const DESCRIPTION: FieldSpec = { field: "description", label: "what for", shape: "text" };
const OWNED: FieldSpec = {
  field: "account",
  label: "owned by",
  shape: { one: "accounts" },
  silent: "shared by all",
};
const HOME: FieldSpec = {
  field: "account",
  label: "account",
  shape: { one: "accounts" },
  required: true,
};
const WINDOW: FieldSpec[] = [
  { field: "from", label: "from", shape: "date" },
  { field: "until", label: "until", shape: "date" },
];

const SPECS: KindSpec[] = [
  {
    kind: "accounts",
    one: "account",
    many: "Accounts",
    about: "A tenant: it owns resources and is home to people.",
    fields: [
      NEEDED,
      { field: "parent", label: "part of", shape: { one: "accounts" }, required: true },
      {
        field: "status",
        label: "status",
        shape: { choice: ["active", "suspended"] },
        silent: "active",
      },
      { field: "sealed", label: "sealed against what comes from above", shape: "flag" },
    ],
  },
  {
    kind: "principals",
    one: "person or service",
    many: "People",
    about: "Who can act.",
    fields: [
      NEEDED,
      {
        field: "kind",
        label: "is a",
        shape: { choice: ["person", "service"] },
        required: true,
        fixed: true,
      },
      { ...HOME, label: "at home in" },
      { field: "email", label: "e-mail address", shape: "text" },
      { field: "unit", label: "unit", shape: { one: "units" } },
      { field: "manager", label: "reports to", shape: { one: "principals" } },
      {
        field: "sponsor",
        label: "sponsor",
        shape: { one: "principals" },
        note: "the person who answers for a service",
      },
      {
        field: "status",
        label: "status",
        shape: { choice: ["invited", "active", "suspended", "left"] },
        silent: "active",
      },
      ...WINDOW,
      { field: "pattern", label: "pattern", shape: { one: "patterns" } },
      { field: "attributes", label: "attributes", shape: "attributes" },
      {
        field: "reach",
        label: "reach",
        shape: "reach",
        note: "further units that “their own unit” covers",
      },
    ],
  },
  {
    kind: "guests",
    one: "guest membership",
    many: "Guests",
    about: "Makes somebody of one account a guest of another.",
    fields: [
      {
        field: "principal",
        label: "who",
        shape: { one: "principals" },
        required: true,
        fixed: true,
      },
      { ...HOME, label: "guest of", fixed: true },
      { field: "withSubaccounts", label: "and of all accounts below it", shape: "flag" },
      ...WINDOW,
      {
        field: "sponsor",
        label: "sponsor",
        shape: { one: "principals" },
        note: "the person who answers for this guest",
      },
    ],
  },
  {
    kind: "bridges",
    one: "bridge",
    many: "Bridges",
    about: "A door: lets a group of one account hold something in another, for a time.",
    fields: [
      { field: "group", label: "for the group", shape: { one: "groups" }, required: true },
      { ...HOME, label: "into" },
      { field: "gives", label: "gives", shape: "gives", required: true },
      { field: "scope", label: "where", shape: "scope", required: true },
      ...WINDOW,
      {
        field: "status",
        label: "status",
        shape: { choice: ["offered", "accepted", "ended"] },
        silent: "offered",
        note: "the account it leads into accepts; either side ends it",
      },
    ],
  },
  {
    kind: "delegations",
    one: "delegation",
    many: "Delegations",
    about: "Lets somebody act for another, within limits.",
    fields: [
      {
        field: "principal",
        label: "who is acted for",
        shape: { one: "principals" },
        required: true,
      },
      { field: "delegate", label: "who acts", shape: { one: "principals" }, required: true },
      { field: "limit", label: "in what", shape: "limit", required: true },
      { field: "scope", label: "where", shape: "scope", required: true },
      ...WINDOW,
    ],
  },
  {
    kind: "activations",
    one: "activation",
    many: "Activations",
    about: "Somebody has switched a just-in-time assignment on. Only they themselves can.",
    fields: [
      {
        field: "principal",
        label: "who",
        shape: { one: "principals" },
        required: true,
        fixed: true,
      },
      {
        field: "assignment",
        label: "which",
        shape: { one: "assignments" },
        required: true,
        fixed: true,
      },
      { field: "from", label: "from", shape: "date" },
      { field: "until", label: "until", shape: "date", required: true },
    ],
  },
  {
    kind: "patterns",
    one: "pattern",
    many: "Patterns",
    about: "A starting point that people of one job share; assignments name it.",
    fields: [
      NEEDED,
      DESCRIPTION,
      OWNED,
      { field: "owners", label: "owners", shape: { many: "principals" } },
    ],
  },
  {
    kind: "resourceTypes",
    one: "resource type",
    many: "Types",
    about: "A kind of place; permissions say on which they apply.",
    fields: [NEEDED, DESCRIPTION, OWNED],
  },
  {
    kind: "permissions",
    one: "permission",
    many: "Permissions",
    about: "One action on some types of place.",
    fields: [
      NEEDED,
      { field: "description", label: "means", shape: "text" },
      { field: "on", label: "on", shape: { many: "resourceTypes" }, required: true },
      {
        field: "class",
        label: "class",
        shape: { choice: ["view", "change", "administer"] },
        required: true,
      },
      {
        field: "risk",
        label: "risk",
        shape: { choice: ["low", "moderate", "high", "critical"] },
        required: true,
      },
      { field: "implies", label: "implies", shape: { many: "permissions" } },
      {
        field: "requires",
        label: "gates",
        shape: { many: "permissions" },
        note: "usable only where these are usable too",
      },
      {
        field: "delegable",
        label: "may others use it when acting for somebody",
        shape: { choice: ["yes", "no"] },
        silent: "as its class and risk tell",
      },
      OWNED,
    ],
  },
  {
    kind: "permissionSets",
    one: "permission set",
    many: "Permission sets",
    about: "A named bundle of permissions that are allowed and denied.",
    fields: [
      NEEDED,
      DESCRIPTION,
      { field: "allow", label: "allows", shape: { many: "permissions" } },
      { field: "deny", label: "denies", shape: { many: "permissions" } },
      { field: "includes", label: "includes", shape: { many: "permissionSets" } },
      OWNED,
    ],
  },
  {
    kind: "exclusions",
    one: "exclusion",
    many: "Exclusions",
    about: "Separation of duties: what nobody may hold together.",
    fields: [
      NEEDED,
      DESCRIPTION,
      {
        field: "sides",
        label: "sides",
        shape: "sides",
        required: true,
        note: "a side is taken by whoever can use one of its permissions",
      },
      { field: "atMost", label: "how many sides one may take", shape: "number", silent: "1" },
      {
        field: "where",
        label: "together",
        shape: { choice: ["resource", "account", "anywhere"] },
        required: true,
        note: "on one resource, in one account, or anywhere",
      },
      { field: "exempt", label: "spared", shape: "exempt" },
      OWNED,
    ],
  },
  {
    kind: "expectations",
    one: "expectation",
    many: "Expectations",
    about: "A statement about access that must stay true.",
    fields: [
      NEEDED,
      DESCRIPTION,
      {
        field: "form",
        label: "says",
        shape: { choice: ["can", "cannot", "only", "count"] },
        required: true,
        note: "they can; they cannot; only they can; how many can",
      },
      {
        field: "subjects",
        label: "who",
        shape: "subjects",
        note: "leave empty where it counts",
      },
      {
        field: "permissions",
        label: "what",
        shape: { many: "permissions" },
        required: true,
      },
      { field: "scope", label: "where", shape: "scope", required: true },
      { field: "min", label: "at least", shape: "number" },
      { field: "max", label: "at most", shape: "number" },
      OWNED,
    ],
  },
];

/** @throws Error if nothing is known of the kind */
export function specOf(kind: string): KindSpec {
  const spec = SPECS.find((it) => it.kind === kind);
  if (!spec) throw new Error(`No form for ${kind}`);
  return spec;
}

function isEmpty(value: unknown): boolean {
  return (
    value === undefined ||
    value === null ||
    value === "" ||
    value === false ||
    (Array.isArray(value) && value.length === 0) ||
    (typeof value === "object" && Object.keys(value).length === 0)
  );
}

/** What is still missing, in words; undefined where the form is whole. */
export function missingIn(spec: KindSpec, thing: Thing): string | undefined {
  const missing = spec.fields.filter((it) => it.required && isEmpty(thing[it.field]));
  if (missing.length > 0) return `Still missing: ${missing.map((it) => it.label).join(", ")}.`;
  const sides = thing["sides"];
  if (Array.isArray(sides) && (sides.length < 2 || sides.some((it) => isEmpty(it)))) {
    return "An exclusion has two sides or more, each with a permission.";
  }
  return undefined;
}

/** The thing as the server takes it: what is empty left out. */
export function thingOf(form: Thing): Thing {
  return Object.fromEntries(
    Object.entries(form)
      .filter(([, value]) => !isEmpty(value))
      .map(([field, value]) => [field, field === "delegable" ? value === "yes" : value]),
  );
}

/** The form that a thing fills in. */
export function formOf(thing: Thing): Thing {
  const delegable = thing["delegable"];
  return typeof delegable === "boolean"
    ? { ...thing, delegable: delegable ? "yes" : "no" }
    : { ...thing };
}

/** An instant as a day, and back: windows begin and end with days. */
export function dayOf(instant: unknown): string {
  return typeof instant === "string" ? instant.slice(0, 10) : "";
}

export function instantOf(day: string): string | undefined {
  return day ? `${day}T00:00:00Z` : undefined;
}

/** The instant of a day that was typed; one whose day stays keeps its time of day. */
export function instantAt(day: string, before: unknown): string | undefined {
  return dayOf(before) === day && typeof before === "string" ? before : instantOf(day);
}
