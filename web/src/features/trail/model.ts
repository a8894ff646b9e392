import type { Filter } from "./queries";

/** The acts that the trail records, and how its filter calls them. */
export const ACTS: { value: string; label: string }[] = [
  { value: "changed", label: "changed" },
  { value: "applied", label: "applied" },
  { value: "sent", label: "sent for approval" },
  { value: "declined", label: "declined" },
  { value: "approved", label: "approved" },
  { value: "checked", label: "checked" },
  { value: "asked", label: "asked" },
  { value: "refused", label: "been refused" },
  { value: "erased", label: "erased somebody" },
  { value: "signed-in", label: "signed in" },
  { value: "signed-out", label: "signed out" },
  { value: "exported", label: "exported" },
  { value: "imported", label: "imported" },
  { value: "token-made", label: "made a token" },
  { value: "token-used", label: "called with a token" },
  { value: "token-revoked", label: "revoked a token" },
];

/** Records loaded at first, and by “Load older records” in fours. */
export const STEP = 100;

/** The filter that an address asks for; days begin at midnight UTC. */
export function filterOf(params: URLSearchParams, text: string): Filter {
  const filter: Filter = {};
  for (const name of ["who", "act", "kind", "thing", "place"] as const) {
    const value = params.get(name);
    if (value) filter[name] = value;
  }
  for (const name of ["from", "until"] as const) {
    const value = params.get(name);
    if (value) filter[name] = `${value}T00:00:00Z`;
  }
  if (text) filter.text = text;
  const revision = params.get("revision");
  if (revision) filter.revision = Number(revision);
  return filter;
}
