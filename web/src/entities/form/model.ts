import type { Thing } from "@/shared/lib/thing";
import { SPECS, type KindSpec } from "./declaration";

/** @throws Error if there is no form for the kind */
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

/** The labels of required fields that are empty, and other faults, by field. */
export function faultsIn(spec: KindSpec, thing: Thing): Record<string, string> {
  const faults: Record<string, string> = {};
  for (const it of spec.fields) {
    if (it.required && isEmpty(thing[it.field])) faults[it.field] = `Enter “${it.label}”.`;
  }
  const sides = thing["sides"];
  if (Array.isArray(sides) && (sides.length < 2 || sides.some((it) => isEmpty(it)))) {
    faults["sides"] = "An exclusion needs two or more sides. Add a permission to each.";
  }
  const { from, until } = thing;
  if (typeof from === "string" && typeof until === "string" && from && until && from >= until) {
    faults["until"] = "The end must come after the start. Choose a later day.";
  }
  return faults;
}

/** The thing in the document form, without empty fields. */
export function thingOf(form: Thing): Thing {
  return Object.fromEntries(
    Object.entries(form)
      .filter(([, value]) => !isEmpty(value))
      .map(([field, value]) => [field, field === "delegable" ? value === "yes" : value]),
  );
}

/** The form's values of a thing. */
export function formOf(thing: Thing): Thing {
  const delegable = thing["delegable"];
  return typeof delegable === "boolean"
    ? { ...thing, delegable: delegable ? "yes" : "no" }
    : { ...thing };
}
