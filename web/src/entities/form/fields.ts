import type { FieldSpec } from "./spec";

/** The permission that creates definitions: roles, permissions and what is like them. */
export const DEFINE = "mandala.rights.define";
export const NAME: FieldSpec = { field: "name", label: "Name", shape: "text" };
export const NEEDED: FieldSpec = { ...NAME, required: true };
export const DESCRIPTION: FieldSpec = { field: "description", label: "Description", shape: "text" };
export const OWNED: FieldSpec = {
  field: "account",
  label: "Owned by",
  shape: { one: "accounts" },
  silent: "shared by all accounts",
};
export const HOME: FieldSpec = {
  field: "account",
  label: "Account",
  shape: { one: "accounts" },
  required: true,
};
export const WINDOW_FROM: FieldSpec = { field: "from", label: "From", shape: "date" };
export const WINDOW_UNTIL: FieldSpec = { field: "until", label: "Until", shape: "date" };
export const WINDOW: FieldSpec[] = [WINDOW_FROM, WINDOW_UNTIL];
