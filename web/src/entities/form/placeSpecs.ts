import { DESCRIPTION, HOME, NEEDED } from "./fields";
import type { KindSpec } from "./spec";

/**
 * The forms of what the tree of places is made of. Under what a new place or unit comes is decided
 * by the page that creates it; its page moves it.
 */
export const PLACE_SPECS: KindSpec[] = [
  {
    kind: "accounts",
    makes: "mandala.account.manage",
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
    kind: "resources",
    makes: "mandala.places.manage",
    one: "place",
    many: "Places",
    about: "Something that access is granted on. What lies below it inherits that access.",
    fields: [
      NEEDED,
      { field: "type", label: "Type", shape: { one: "resourceTypes" }, required: true },
      { ...HOME, fixed: true },
      DESCRIPTION,
      { field: "owner", label: "Owner", shape: { one: "principals" }, first: true },
      { field: "unit", label: "Unit", shape: { one: "units" } },
      { field: "labels", label: "Labels", shape: "attributes" },
      {
        field: "sealed",
        label: "Sealed",
        shape: "flag",
        note: "A sealed place inherits no access from above.",
      },
    ],
  },
  {
    kind: "units",
    makes: "mandala.people.manage",
    one: "unit",
    many: "Units",
    about: "A part of an account that people belong to, such as a department.",
    fields: [NEEDED, { ...DESCRIPTION, first: true }, { ...HOME, fixed: true }],
  },
];
