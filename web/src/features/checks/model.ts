import type { Schemas } from "@/shared/api/client";

type Finding = Schemas["CheckedFinding"];

/** A violated rule and its findings. */
export interface ViolatedRule {
  kind: string;
  key: string;
  name: string;
  findings: Finding[];
}

/** Findings by rule, rules in order of first appearance. */
export function rulesOf(findings: Finding[]): ViolatedRule[] {
  const rules = new Map<string, ViolatedRule>();
  for (const it of findings) {
    const id = `${it.kind} ${it.key}`;
    const rule = rules.get(id) ?? { kind: it.kind, key: it.key, name: it.name, findings: [] };
    rule.findings.push(it);
    rules.set(id, rule);
  }
  return [...rules.values()];
}
