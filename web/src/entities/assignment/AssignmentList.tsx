import { beginningOf, endOf } from "@/shared/lib/words";
import { useState } from "react";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useEdit } from "@/entities/draft/queries";
import type { AssignmentView } from "@/entities/thing/queries";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { EndAssignment } from "./EndAssignment";
import { LazyComposer } from "./LazyComposer";

interface Props {
  label: string;
  assignments: AssignmentView[];
  /** The side that the page is about, which is not repeated. */
  hide?: "subject" | "gives";
  /** Whose page it is: removing then says whom else it concerns. */
  person?: { ref: string; name: string };
}

/** When and how an assignment is in effect, in words. */
function conditions(it: AssignmentView): string {
  return (
    [
      it.state !== "in force" && it.state,
      it.from && `from ${beginningOf(it.from)}`,
      it.until && `until ${endOf(it.until)}`,
      it.justInTime && "just-in-time",
      it.crossesSeals && "crosses seals",
    ]
      .filter(Boolean)
      .join(", ") || "always"
  );
}

/** Assignments; each can be edited or removed in the draft. */
export function AssignmentList({ label, assignments, hide, person }: Props) {
  const edit = useEdit();
  const [edited, setEdited] = useState<AssignmentView>();
  const [ended, setEnded] = useState<AssignmentView>();
  const columns: Column<AssignmentView>[] = [
    { key: "subject", title: "Who", render: (it) => it.subjectName, card: "title" },
    {
      key: "gives",
      title: "Grants",
      card: hide === "subject" ? "title" : "line",
      render: (it) => (
        <>
          {it.denies && <em>denied </em>}
          {it.givesName}
        </>
      ),
    },
    { key: "where", title: "Where", render: (it) => it.where },
    {
      key: "conditions",
      title: "When and how",
      render: (it) => (
        <>
          {conditions(it)}
          <DraftMark mark={it.mark} />
        </>
      ),
    },
    {
      key: "actions",
      title: "Actions",
      quietTitle: true,
      width: 120,
      render: (it) =>
        it.mark !== "removes" &&
        !it.cannot && (
          <span className="acts" style={{ margin: 0 }}>
            <LinkButton
              aria-label={`Edit: ${it.subjectName} ${it.givesName} ${it.where}`}
              onClick={() => setEdited(it)}
            >
              Edit
            </LinkButton>
            <LinkButton
              aria-label={`Remove: ${it.subjectName} ${it.givesName} ${it.where}`}
              onClick={() =>
                person
                  ? setEnded(it)
                  : edit.mutate([{ kind: "assignments", key: it.key, remove: true }])
              }
            >
              Remove
            </LinkButton>
          </span>
        ),
    },
  ];
  return (
    <>
      {edit.isError && <ProblemAlert problem={edit.error} />}
      {assignments.length === 0 ? (
        <p className="note">No assignments.</p>
      ) : (
        <DataTable
          label={label}
          rows={assignments}
          rowKey={(it) => it.key}
          rowClass={(it) => it.mark}
          columns={columns.filter((it) => it.key !== hide)}
        />
      )}
      {ended && person && (
        <EndAssignment
          key={ended.key}
          assignment={ended}
          person={person}
          onClose={() => setEnded(undefined)}
        />
      )}
      {edited && (
        <LazyComposer
          open
          key={edited.key}
          existing={edited}
          onClose={() => setEdited(undefined)}
        />
      )}
    </>
  );
}
