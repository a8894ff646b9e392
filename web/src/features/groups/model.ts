import type { Thing } from "@/shared/lib/thing";

export interface Test {
  attribute: string;
  op: string;
  value?: string | string[];
}

export interface Rule {
  match: "all" | "any";
  tests: Test[];
}

export const OPS = [
  { value: "is", label: "is" },
  { value: "is-not", label: "is not" },
  { value: "in", label: "is one of" },
  { value: "starts-with", label: "starts with" },
  { value: "present", label: "is set" },
  { value: "absent", label: "is not set" },
  { value: "under", label: "is at or below" },
];

/** The rule of a group, from its document form. */
export function ruleOf(thing: unknown): Rule | undefined {
  const rule = (thing as Thing)["rule"] as Record<string, Test[]> | undefined;
  if (!rule) return undefined;
  return rule["all"]
    ? { match: "all", tests: rule["all"] }
    : { match: "any", tests: rule["any"] ?? [] };
}

/** A rule in the document form, without unfinished tests. */
export function written(rule: Rule): Thing | undefined {
  const tests = rule.tests.flatMap((it): Thing[] => {
    if (!it.attribute) return [];
    if (it.op === "present" || it.op === "absent") return [{ attribute: it.attribute, op: it.op }];
    if (it.op === "in") {
      const values = (Array.isArray(it.value) ? it.value : (it.value ?? "").split(","))
        .map((each) => each.trim())
        .filter(Boolean);
      return values.length > 0 ? [{ attribute: it.attribute, op: "in", value: values }] : [];
    }
    const value = Array.isArray(it.value) ? (it.value[0] ?? "") : (it.value ?? "");
    return value ? [{ attribute: it.attribute, op: it.op, value }] : [];
  });
  return tests.length > 0 ? { [rule.match]: tests } : undefined;
}

/** Attributes that every person has; others can be typed. */
export const ATTRIBUTES = ["title", "unit", "manager", "kind", "account", "status"];
