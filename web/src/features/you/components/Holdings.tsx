import type { AssignmentView } from "@/entities/thing/queries";
import { dayOf } from "@/shared/lib/words";

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
            {it.until && `, until ${dayOf(it.until)}`}
            {it.justInTime && ", once activated"}
          </small>
        </li>
      ))}
    </ul>
  );
}
