import { endOf } from "@/shared/lib/words";
import type { AssignmentView } from "@/entities/thing/queries";

interface Props {
  assignments: AssignmentView[];
  /** Shown where there is none. */
  none: string;
}

/** Assignments as sentences. */
export function Holdings({ assignments, none }: Props) {
  if (assignments.length === 0) return <p className="note">{none}</p>;
  return (
    <ul className="plain-list">
      {assignments.map((it) => (
        <li key={it.key}>
          <strong>{it.givesName}</strong>
          {it.denies && " (denied)"} · {it.where}
          <small>
            {" "}
            through {it.subjectName}
            {it.until && `, until ${endOf(it.until)}`}
            {it.justInTime && ", once activated"}
          </small>
        </li>
      ))}
    </ul>
  );
}
