import { ThingTags } from "@/entities/thing/ThingTags";
import { useThings, type ThingView } from "@/entities/thing/queries";
import { listOf, textOf, type Edit } from "@/shared/lib/thing";

interface Props {
  role: ThingView;
  onEdits: (edits: Edit[]) => void;
}

/** The key of the set that holds a role's single permissions. */
export function ownSetOf(role: ThingView): string {
  return `${role.key ?? ""}-own`;
}

/** The edits that give a role a single permission: through a set of its own, made in passing. */
export function permissionEdits(role: ThingView, permission: string): Edit[] {
  const key = ownSetOf(role);
  if (listOf(role.thing, "sets").includes(key)) {
    return [{ kind: "permissionSets", key, add: { allow: [permission] } }];
  }
  const account = textOf(role.thing, "account");
  return [
    {
      kind: "permissionSets",
      after: {
        key,
        name: `Only in ${role.name}`,
        ...(account && { account }),
        allow: [permission],
      },
    },
    { kind: "roles", key: role.key ?? "", add: { sets: [key] } },
  ];
}

/** Permissions that a role grants besides those of its sets. */
export function OwnPermissions({ role, onEdits }: Props) {
  const key = ownSetOf(role);
  const has = listOf(role.thing, "sets").includes(key);
  const sets = useThings("permissionSets", { text: key, limit: 20 }, has);
  const own = sets.data?.things.find((it) => it.key === key);
  const keys = has ? listOf(own?.thing, "allow") : [];
  return (
    <div>
      <h3>Single permissions</h3>
      <ThingTags
        label="Single permissions"
        kind="permissions"
        keys={keys}
        locked={role.supplied || role.cannot !== undefined}
        onAdd={(it) => onEdits(permissionEdits(role, it))}
        onRemove={(it) => onEdits([{ kind: "permissionSets", key, drop: { allow: [it] } }])}
      />
    </div>
  );
}
