import { pageOf } from "@/entities/thing/pages";
import type { Finding, FindingFilter } from "./queries";

/** The page of a rule that a finding breaks: prerequisites and holders are rules of a role. */
export function pageOfRule(kind: string, key: string): string {
  const thing = kind === "exclusion" || kind === "expectation" ? `${kind}s` : "roles";
  return pageOf(thing, key) ?? "/checks";
}

/** What may come of a finding, the worst first. */
export const HARMS = [
  { value: "misuse", label: "Could be misused" },
  { value: "excess", label: "More than needed" },
  { value: "leftover", label: "Left over" },
  { value: "no-owner", label: "No one responsible" },
  { value: "no-effect", label: "Doesn’t work as meant" },
  { value: "clutter", label: "Clutter" },
];

export const RISKS = [
  { value: "", label: "Any risk" },
  { value: "moderate", label: "Moderate risk or higher" },
  { value: "high", label: "High risk or higher" },
  { value: "critical", label: "Critical risk" },
];

export const STATES = [
  { value: "", label: "Open" },
  { value: "new", label: "New" },
  { value: "in-draft", label: "In a draft" },
  { value: "accepted", label: "Accepted" },
  { value: "resolved", label: "Resolved" },
  { value: "any", label: "Any state" },
];

export const ORDERS = [
  { value: "", label: "Worst first" },
  { value: "newest", label: "Newest first" },
  { value: "largest", label: "Largest first" },
];

const FILTERS = ["harm", "risk", "owner", "state", "text", "order"] as const;

/** The filter that an address says. */
export function filterOf(params: URLSearchParams): FindingFilter {
  const filter: FindingFilter = {};
  for (const name of FILTERS) {
    const value = params.get(name);
    if (value) filter[name] = value;
  }
  const kind = params.get("kind");
  if (kind) filter.detector = kind;
  const account = params.get("within");
  if (account) filter.account = account;
  return filter;
}

/** Whether anything but the order narrows the list. */
export function isNarrowed(filter: FindingFilter): boolean {
  return Object.keys(filter).some((it) => it !== "order");
}

/** Where a finding is looked into, beside its remedies. */
export function placesOf(finding: Finding): { to: string; label: string }[] {
  const key = encodeURIComponent(finding.about ?? "");
  const page = pageOf(finding.aboutKind, finding.about);
  const open = page ? [{ to: page, label: `Open ${finding.aboutName}` }] : [];
  switch (finding.kind) {
    case "unused-rights":
    case "dormant":
    case "use-not-allowed":
    case "rare-among-colleagues":
    case "guest-past-purpose":
      return [
        { to: `/people/${key}?tab=use`, label: "Look at their use, and trim access" },
        ...open,
      ];
    case "not-observed":
      return [...open, { to: "/settings", label: "Set up a source of use" }];
    default:
      return open;
  }
}

/** The state of a finding in words. */
export function stateOf(finding: Finding): string {
  switch (finding.state) {
    case "accepted":
      return "Accepted";
    case "in-draft":
      return "In a draft";
    case "resolved":
      return "Resolved";
    default:
      return finding.returned === "worse"
        ? "Worse than accepted"
        : finding.returned === "ended"
          ? "Acceptance ended"
          : "New";
  }
}
