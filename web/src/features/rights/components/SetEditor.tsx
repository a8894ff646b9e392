import { useEdit } from "@/entities/draft/queries";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { useThings, type ThingView } from "@/entities/thing/queries";
import { listOf } from "@/shared/lib/thing";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { TagList } from "@/shared/ui/TagList";

const PARTS = [
  { field: "allow", label: "Allows", kind: "permissions" },
  { field: "deny", label: "Denies", kind: "permissions" },
  { field: "includes", label: "Includes", kind: "permissionSets" },
];

/** What a permission set allows, denies and includes; edited in the draft. */
export function SetEditor({ set }: { set: ThingView }) {
  const permissions = useThings("permissions", { limit: 1000 });
  const sets = useThings("permissionSets", { limit: 1000 });
  const edit = useEdit();
  const key = set.key ?? "";
  const names = new Map(
    [...(permissions.data?.things ?? []), ...(sets.data?.things ?? [])].map((it) => [
      it.key ?? "",
      it.name,
    ]),
  );
  const change = (changes: object) => edit.mutate([{ kind: "permissionSets", key, ...changes }]);
  return (
    <>
      {PARTS.map(({ field, label, kind }) => (
        <div key={field}>
          <h3>{label}</h3>
          <TagList
            label={label}
            items={listOf(set.thing, field).map((it) => ({ key: it, name: names.get(it) ?? it }))}
            {...(!set.supplied && {
              onRemove: (it: string) => change({ drop: { [field]: [it] } }),
              add: (
                <InlinePicker
                  label={label}
                  look="link"
                  value="Add"
                  picker={(close) => (
                    <ThingPicker
                      kind={kind}
                      label={label}
                      without={[...listOf(set.thing, field), key]}
                      onChoose={(it) => {
                        change({ add: { [field]: [it] } });
                        close();
                      }}
                    />
                  )}
                />
              ),
            })}
          />
        </div>
      ))}
      {edit.isError && <ProblemAlert problem={edit.error} />}
    </>
  );
}
