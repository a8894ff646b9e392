import { useState } from "react";
import { ProblemNote } from "./ProblemNote";
import { DraftMark } from "./DraftMark";
import { useEdit } from "../features/draft/queries";
import { Composer } from "../features/assign/components/Composer";
import type { AssignmentView } from "../features/things/queries";

interface Props {
  assignments: AssignmentView[];
  /** Which side is clear from the page, and so is not said. */
  hide?: "subject" | "gives";
}

/** Assignments in words; each can be changed or ended, into the draft. */
export function AssignmentList({ assignments, hide }: Props) {
  const edit = useEdit();
  const [changed, setChanged] = useState<AssignmentView>();
  if (assignments.length === 0) return <p className="note">Nothing is assigned.</p>;
  return (
    <>
      {edit.isError && <ProblemNote problem={edit.error} />}
      <table className="plain assignments">
        <thead>
          <tr>
            {hide !== "subject" && <th scope="col">who</th>}
            {hide !== "gives" && <th scope="col">gets</th>}
            <th scope="col">where</th>
            <th scope="col">when and how</th>
            <th scope="col" aria-label="Acts" />
          </tr>
        </thead>
        <tbody>
          {assignments.map((it) => (
            <tr key={it.key} className={it.mark}>
              {hide !== "subject" && <th scope="row">{it.subjectName}</th>}
              {hide !== "gives" && (
                <td>
                  {it.denies && <em>denied </em>}
                  {it.givesName}
                </td>
              )}
              <td>{it.where}</td>
              <td>
                {[
                  it.state !== "in force" && it.state,
                  it.from && `from ${it.from.slice(0, 10)}`,
                  it.until && `until ${it.until.slice(0, 10)}`,
                  it.justInTime && "just-in-time",
                  it.crossesSeals && "crosses seals",
                ]
                  .filter(Boolean)
                  .join(", ") || "always"}
                <DraftMark mark={it.mark} />
              </td>
              <td className="acts">
                {it.mark !== "removes" && (
                  <>
                    <button type="button" className="link" onClick={() => setChanged(it)}>
                      change
                    </button>
                    <button
                      type="button"
                      className="link"
                      aria-label={`End: ${it.subjectName} ${it.givesName} ${it.where}`}
                      onClick={() =>
                        edit.mutate([{ kind: "assignments", key: it.key, remove: true }])
                      }
                    >
                      end
                    </button>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {changed && (
        <Composer open key={changed.key} existing={changed} onClose={() => setChanged(undefined)} />
      )}
    </>
  );
}
