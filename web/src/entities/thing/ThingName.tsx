import { useThings } from "./queries";

interface Props {
  kind: string;
  /** A key, or a reference such as `group:night-guards`. */
  reference: string;
}

const KIND_OF: Record<string, string> = {
  person: "principals",
  service: "principals",
  group: "groups",
  pattern: "patterns",
  account: "accounts",
  unit: "units",
  role: "roles",
  set: "permissionSets",
  permission: "permissions",
};

const FIXED: Record<string, string> = {
  "signed-in": "Everyone signed in",
  anyone: "Anyone, signed in or not",
  anonymous: "Anyone not signed in",
};

/** The name of a thing, found by its key or reference; the key until the name is known. */
export function useThingName(kind: string, reference: string): string {
  const colon = reference.indexOf(":");
  const key = reference.slice(colon + 1);
  const of = colon < 0 ? kind : (KIND_OF[reference.slice(0, colon)] ?? kind);
  const fixed = FIXED[reference];
  const found = useThings(of, { text: key, limit: 20 }, !fixed && key !== "");
  return fixed ?? found.data?.things.find((it) => it.key === key)?.name ?? key;
}

/** The same, to be shown. */
export function ThingName({ kind, reference }: Props) {
  return <>{useThingName(kind, reference)}</>;
}
