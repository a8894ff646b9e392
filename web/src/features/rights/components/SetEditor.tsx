import { useEdit } from "@/entities/draft/queries";
import { ThingTags } from "@/entities/thing/ThingTags";
import { useThings, type ThingView } from "@/entities/thing/queries";
import { listOf } from "@/shared/lib/thing";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

const PARTS = [
  { field: "allow", label: "Allows", kind: "permissions" },
  { field: "deny", label: "Denies", kind: "permissions" },
  { field: "includes", label: "Includes", kind: "permissionSets" },
];

/** What a permission set allows, denies and includes; edited in the draft. */
export function SetEditor({ set }: { set: ThingView }) {
  const permissions = useThings("permissions", { limit: 1000 });
  const sets = useThings("permissionSets", { limit: 1000 });
  const names = new Map(
    [...(permissions.data?.things ?? []), ...(sets.data?.things ?? [])].map((it) => [
      it.key ?? "",
      it.name,
    ]),
  );
  const edit = useEdit();
  const key = set.key ?? "";
  const change = (changes: object) => edit.mutate([{ kind: "permissionSets", key, ...changes }]);
  return (
    <>
      {PARTS.map(({ field, label, kind }) => (
        <div key={field}>
          <h3>{label}</h3>
          <ThingTags
            label={label}
            kind={kind}
            keys={listOf(set.thing, field)}
            names={names}
            without={[key]}
            locked={set.supplied || set.cannot !== undefined}
            onAdd={(it) => change({ add: { [field]: [it] } })}
            onRemove={(it) => change({ drop: { [field]: [it] } })}
          />
        </div>
      ))}
      {edit.isError && <ProblemAlert problem={edit.error} />}
    </>
  );
}
