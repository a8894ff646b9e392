/** The page of a thing; undefined where it has none. */
export function pageOf(kind: string, key: string | undefined): string | undefined {
  if (!key) return undefined;
  const id = encodeURIComponent(key);
  switch (kind) {
    case "roles":
      return `/rights/roles/${id}`;
    case "permissionSets":
      return `/rights/sets?open=${id}`;
    case "permissions":
      return `/rights/permissions?open=${id}`;
    case "groups":
      return `/groups/${id}`;
    case "resources":
      return `/places?at=${id}`;
    case "accounts":
      return `/places?at=account:${id}`;
    case "units":
      return `/places?at=unit:${id}`;
    case "principals":
      return `/people/${id}`;
    case "patterns":
      return `/rights/patterns?open=${id}`;
    case "exclusions":
    case "expectations":
      return `/checks?part=${kind}&open=${id}`;
    default:
      return undefined;
  }
}

const KIND_OF_STEP: Record<string, string> = {
  person: "principals",
  service: "principals",
  group: "groups",
  role: "roles",
  set: "permissionSets",
  permission: "permissions",
  place: "resources",
  account: "accounts",
  unit: "units",
  pattern: "patterns",
};

/** The page of a step of a route; undefined where it has none. */
export function pageOfStep(step: { kind: string; key: string }): string | undefined {
  const kind = KIND_OF_STEP[step.kind];
  return kind && step.key !== "" ? pageOf(kind, step.key) : undefined;
}
