import { useThings } from "../../things/queries";

interface Props {
  kind: string;
  /** Its key, or a reference that ends with it. */
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
  "signed-in": "whoever is signed in",
  anyone: "anyone, signed in or not",
  anonymous: "whoever is not signed in",
};

/** What a thing is called, by its key or a reference to it; the key until that is known. */
export function ThingName({ kind, reference }: Props) {
  const colon = reference.indexOf(":");
  const key = reference.slice(colon + 1);
  const of = colon < 0 ? kind : (KIND_OF[reference.slice(0, colon)] ?? kind);
  const fixed = FIXED[reference];
  const found = useThings(of, { text: key, limit: 20 }, !fixed);
  return <>{fixed ?? found.data?.things.find((it) => it.key === key)?.name ?? key}</>;
}
