import { ThingTags } from "@/entities/thing/ThingTags";
import type { Schemas } from "@/shared/api/client";
import type { Edit } from "@/shared/lib/thing";
import { listOf } from "@/shared/lib/thing";
import { OwnPermissions, ownSetOf } from "./OwnPermissions";
import { listed } from "@/shared/lib/words";

interface Props {
  page: Schemas["RolePage"];
  onEdits: (edits: Edit[]) => void;
}

const PARTS = [
  { field: "sets", label: "Permission sets", kind: "permissionSets" },
  { field: "inherits", label: "Inherits from", kind: "roles" },
  { field: "prerequisites", label: "Prerequisites", kind: "roles" },
];

/** What a role is made of: permission sets, inherited roles, prerequisites. */
export function RoleParts({ page, onEdits }: Props) {
  const onEdit = (it: Edit) => onEdits([it]);
  const { role, seniors, copies } = page;
  const key = role.key ?? "";
  const parts = PARTS.map((it) => ({
    ...it,
    keys: listOf(role.thing, it.field).filter((each) => each !== ownSetOf(role)),
  }));
  return (
    <>
      {parts.map(({ field, label, kind, keys }) => (
        <div key={field}>
          <h3>{label}</h3>
          <ThingTags
            label={label}
            kind={kind}
            keys={keys}
            without={[key]}
            locked={role.supplied || role.cannot !== undefined}
            onAdd={(it) => onEdit({ kind: "roles", key, add: { [field]: [it] } })}
            onRemove={(it) => onEdit({ kind: "roles", key, drop: { [field]: [it] } })}
          />
        </div>
      ))}
      <OwnPermissions role={role} onEdits={onEdits} />
      {seniors.length > 0 && (
        <p className="note">Inherited by {listed(seniors.map((it) => it.name))}.</p>
      )}
      {copies.length > 0 && (
        <p className="note">Copied as {listed(copies.map((it) => it.name))}.</p>
      )}
    </>
  );
}
