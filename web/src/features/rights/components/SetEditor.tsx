import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { listOf } from "../../../lib/thing";
import { useEdit } from "../../draft/queries";
import { useThings, type ThingView } from "../../things/queries";

/** What a permission set allows, denies and includes; edited into the draft. */
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
  const parts = [
    { field: "allow", label: "Allows", kind: "permissions" },
    { field: "deny", label: "Denies", kind: "permissions" },
    { field: "includes", label: "Includes", kind: "permissionSets" },
  ];
  return (
    <div className="set-editor">
      {parts.map(({ field, label, kind }) => (
        <div key={field}>
          <h3>{label}</h3>
          <ul className="chips">
            {listOf(set.thing, field).map((it) => (
              <li key={it}>
                {names.get(it) ?? it}
                {!set.supplied && (
                  <button
                    type="button"
                    aria-label={`Take ${names.get(it) ?? it} out`}
                    onClick={() =>
                      edit.mutate([{ kind: "permissionSets", key, drop: { [field]: [it] } }])
                    }
                  >
                    ✕
                  </button>
                )}
              </li>
            ))}
          </ul>
          {!set.supplied && (
            <Field
              label={`${label}: add`}
              className="link"
              value="add"
              picker={(close) => (
                <ThingPicker
                  kind={kind}
                  label="Add"
                  without={[...listOf(set.thing, field), key]}
                  onChoose={(it) => {
                    edit.mutate([{ kind: "permissionSets", key, add: { [field]: [it] } }]);
                    close();
                  }}
                />
              )}
            />
          )}
        </div>
      ))}
      {edit.isError && <ProblemNote problem={edit.error} />}
    </div>
  );
}
