import { pageOf } from "@/entities/thing/pages";

/** The page of a rule that a finding breaks: prerequisites and holders are rules of a role. */
export function pageOfRule(kind: string, key: string): string {
  const thing = kind === "exclusion" || kind === "expectation" ? `${kind}s` : "roles";
  return pageOf(thing, key) ?? "/checks";
}
