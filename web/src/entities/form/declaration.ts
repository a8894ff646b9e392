/** What a field of a thing holds; it decides how the field is edited. */
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
  /** An explanation, where the label needs one. */
  note?: string;
  /** Set only when the thing is created, since it identifies it. */
  fixed?: boolean;
  /** Shown for a missing value. */
  silent?: string;
}

export interface KindSpec {
  kind: string;
  one: string;
  many: string;
  /** What such a thing is for, in one sentence. */
  about: string;
  fields: FieldSpec[];
}

const NAME: FieldSpec = { field: "name", label: "Name", shape: "text" };
const NEEDED: FieldSpec = { ...NAME, required: true };
const DESCRIPTION: FieldSpec = { field: "description", label: "Description", shape: "text" };
const OWNED: FieldSpec = {
  field: "account",
  label: "Owned by",
  shape: { one: "accounts" },
  silent: "shared by all accounts",
};
const HOME: FieldSpec = {
  field: "account",
  label: "Account",
  shape: { one: "accounts" },
  required: true,
};
const WINDOW: FieldSpec[] = [
  { field: "from", label: "From", shape: "date" },
  { field: "until", label: "Until", shape: "date" },
];

/** The forms of all kinds, held to the schema of documents by a test. */
export const SPECS: KindSpec[] = [
  {
    kind: "accounts",
    one: "account",
    many: "Accounts",
    about: "A tenant: it owns resources and is home to people.",
    fields: [
      NEEDED,
      { field: "parent", label: "Parent account", shape: { one: "accounts" }, required: true },
      {
        field: "status",
        label: "Status",
        shape: { choice: ["active", "suspended"] },
        silent: "active",
      },
      { field: "sealed", label: "Sealed", shape: "flag" },
    ],
  },
  {
    kind: "principals",
    one: "person or service",
    many: "People",
    about: "A person or service that can have access.",
    fields: [
      NEEDED,
      {
        field: "kind",
        label: "Kind",
        shape: { choice: ["person", "service"] },
        required: true,
        fixed: true,
      },
      { ...HOME, label: "Home account" },
      { field: "email", label: "E-mail address", shape: "text" },
      { field: "unit", label: "Unit", shape: { one: "units" } },
      { field: "manager", label: "Manager", shape: { one: "principals" } },
      {
        field: "sponsor",
        label: "Sponsor",
        shape: { one: "principals" },
        note: "The person responsible for a service.",
      },
      {
        field: "status",
        label: "Status",
        shape: { choice: ["invited", "active", "suspended", "left"] },
        silent: "active",
      },
      ...WINDOW,
      { field: "pattern", label: "Pattern", shape: { one: "patterns" } },
      { field: "attributes", label: "Attributes", shape: "attributes" },
      {
        field: "reach",
        label: "Reach",
        shape: "reach",
        note: "Further units that “their own unit” covers.",
      },
    ],
  },
  {
    kind: "guests",
    one: "guest membership",
    many: "Guests",
    about: "Makes a person of one account a guest of another account.",
    fields: [
      {
        field: "principal",
        label: "Who",
        shape: { one: "principals" },
        required: true,
        fixed: true,
      },
      { ...HOME, label: "Guest of", fixed: true },
      { field: "withSubaccounts", label: "Include sub-accounts", shape: "flag" },
      ...WINDOW,
      {
        field: "sponsor",
        label: "Sponsor",
        shape: { one: "principals" },
        note: "The person responsible for this guest.",
      },
    ],
  },
  {
    kind: "bridges",
    one: "bridge",
    many: "Bridges",
    about: "Gives a group of one account access in another account, for a time.",
    fields: [
      { field: "group", label: "Group", shape: { one: "groups" }, required: true },
      { ...HOME, label: "Into account" },
      { field: "gives", label: "Grants", shape: "gives", required: true },
      { field: "scope", label: "Where", shape: "scope", required: true },
      ...WINDOW,
      {
        field: "status",
        label: "Status",
        shape: { choice: ["offered", "accepted", "ended"] },
        silent: "offered",
        note: "The account it leads into accepts it; either side can end it.",
      },
    ],
  },
  {
    kind: "delegations",
    one: "delegation",
    many: "Delegations",
    about: "Lets one person act for another, within limits.",
    fields: [
      {
        field: "principal",
        label: "For whom",
        shape: { one: "principals" },
        required: true,
      },
      { field: "delegate", label: "Who acts", shape: { one: "principals" }, required: true },
      { field: "limit", label: "Limited to", shape: "limit", required: true },
      { field: "scope", label: "Where", shape: "scope", required: true },
      ...WINDOW,
    ],
  },
  {
    kind: "activations",
    one: "activation",
    many: "Activations",
    about:
      "A just-in-time assignment that its holder has activated. Only the holder can activate it.",
    fields: [
      {
        field: "principal",
        label: "Who",
        shape: { one: "principals" },
        required: true,
        fixed: true,
      },
      {
        field: "assignment",
        label: "Assignment",
        shape: { one: "assignments" },
        required: true,
        fixed: true,
      },
      { field: "from", label: "From", shape: "date" },
      { field: "until", label: "Until", shape: "date", required: true },
    ],
  },
  {
    kind: "patterns",
    one: "pattern",
    many: "Patterns",
    about: "A starting point for people of one job; assignments can name it.",
    fields: [
      NEEDED,
      DESCRIPTION,
      OWNED,
      { field: "owners", label: "Owners", shape: { many: "principals" } },
    ],
  },
  {
    kind: "resourceTypes",
    one: "resource type",
    many: "Types",
    about: "A kind of place. Each permission applies to some types.",
    fields: [NEEDED, DESCRIPTION, OWNED],
  },
  {
    kind: "permissions",
    one: "permission",
    many: "Permissions",
    about: "One action on places of some types.",
    fields: [
      NEEDED,
      { field: "description", label: "Meaning", shape: "text" },
      { field: "on", label: "Applies to", shape: { many: "resourceTypes" }, required: true },
      {
        field: "class",
        label: "Class",
        shape: { choice: ["view", "change", "administer"] },
        required: true,
      },
      {
        field: "risk",
        label: "Risk",
        shape: { choice: ["low", "moderate", "high", "critical"] },
        required: true,
      },
      { field: "implies", label: "Implies", shape: { many: "permissions" } },
      {
        field: "requires",
        label: "Gates",
        shape: { many: "permissions" },
        note: "Usable only where these permissions are usable too.",
      },
      {
        field: "delegable",
        label: "Can be delegated",
        shape: { choice: ["yes", "no"] },
        silent: "depends on class and risk",
      },
      OWNED,
    ],
  },
  {
    kind: "permissionSets",
    one: "permission set",
    many: "Permission sets",
    about: "A named bundle of allowed and denied permissions.",
    fields: [
      NEEDED,
      DESCRIPTION,
      { field: "allow", label: "Allows", shape: { many: "permissions" } },
      { field: "deny", label: "Denies", shape: { many: "permissions" } },
      { field: "includes", label: "Includes", shape: { many: "permissionSets" } },
      OWNED,
    ],
  },
  {
    kind: "exclusions",
    one: "exclusion",
    many: "Exclusions",
    about: "Separation of duties: permissions that one person must not hold together.",
    fields: [
      NEEDED,
      DESCRIPTION,
      {
        field: "sides",
        label: "Sides",
        shape: "sides",
        required: true,
        note: "A person holds a side if they can use any of its permissions.",
      },
      { field: "atMost", label: "Sides allowed", shape: "number", silent: "1" },
      {
        field: "where",
        label: "Counted per",
        shape: { choice: ["resource", "account", "anywhere"] },
        required: true,
        note: "Sides count together on one resource, in one account, or anywhere.",
      },
      { field: "exempt", label: "Exemptions", shape: "exempt" },
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
        label: "Form",
        shape: { choice: ["can", "cannot", "only", "count"] },
        required: true,
        note: "They can; they can’t; only they can; how many can.",
      },
      {
        field: "subjects",
        label: "Who",
        shape: "subjects",
        note: "Leave empty to count everyone.",
      },
      {
        field: "permissions",
        label: "Permissions",
        shape: { many: "permissions" },
        required: true,
      },
      { field: "scope", label: "Where", shape: "scope", required: true },
      { field: "min", label: "At least", shape: "number" },
      { field: "max", label: "At most", shape: "number" },
      OWNED,
    ],
  },
];
