import type { Thing } from "@/shared/lib/thing";
import { SPECS, type FieldSpec, type KindSpec } from "./declaration";

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

/** Whether a thing needs a field. */
export function isNeeded(it: FieldSpec, thing: Thing): boolean {
  return it.required === true || it.needed?.(thing) === true;
}

/** The labels of required fields that are empty, and other faults, by field. */
export function faultsIn(spec: KindSpec, thing: Thing): Record<string, string> {
  const faults: Record<string, string> = {};
  for (const it of spec.fields) {
    if (isNeeded(it, thing) && isEmpty(thing[it.field])) faults[it.field] = `Enter “${it.label}”.`;
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

/** The thing in the document form, without empty fields and those of the form alone. */
export function thingOf(spec: KindSpec, form: Thing): Thing {
  const own = spec.fields.filter((it) => it.derived).map((it) => it.field);
  return Object.fromEntries(
    Object.entries(form)
      .filter(([field, value]) => !isEmpty(value) && !own.includes(field))
      .map(([field, value]) => [field, field === "delegable" ? value === "yes" : value]),
  );
}

/** The form's values of a thing. */
export function formOf(spec: KindSpec, thing: Thing): Thing {
  const own = spec.fields.flatMap((it) => (it.derived ? [[it.field, it.derived(thing)]] : []));
  const delegable = thing["delegable"];
  return {
    ...thing,
    ...(typeof delegable === "boolean" && { delegable: delegable ? "yes" : "no" }),
    ...(Object.fromEntries(own) as Thing),
  };
}
