import type { Schemas } from "../../api/client";

type Finding = Schemas["CheckedFinding"];

/** A rule and all that breaks it. */
export interface BrokenRule {
  kind: string;
  key: string;
  name: string;
  findings: Finding[];
}

/** Findings by rule, rules in the order in which they first stand there. */
export function rulesOf(findings: Finding[]): BrokenRule[] {
  const rules = new Map<string, BrokenRule>();
  for (const it of findings) {
    const id = `${it.kind} ${it.key}`;
    const rule = rules.get(id) ?? { kind: it.kind, key: it.key, name: it.name, findings: [] };
    rule.findings.push(it);
    rules.set(id, rule);
  }
  return [...rules.values()];
}
