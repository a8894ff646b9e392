import { Button, Modal } from "antd";
import { useQuery } from "@tanstack/react-query";
import { useEdit } from "@/entities/draft/queries";
import type { AssignmentView } from "@/entities/thing/queries";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import type { Edit } from "@/shared/lib/thing";
import { count } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

interface Props {
  assignment: AssignmentView;
  /** Whose page it is: their reference, such as `person:K`, and their name. */
  person: { ref: string; name: string };
  onClose: () => void;
}

function useEnding(key: string, assignment: string) {
  return useQuery({
    queryKey: ["ending", key, assignment],
    queryFn: () =>
      answerOf(
        api.GET("/api/rights/people/{key}/ending", {
          params: { path: { key }, query: { assignment, draft: "open" } },
        }),
      ),
  });
}

/** Whom else it concerns, in one sentence. */
export function othersInWords(it: Schemas["EndingView"]): string {
  const others =
    it.people > 0
      ? `${count(it.people, "other person", "other people")} would lose or gain ${count(it.rights, "right")}`
      : "No one else that you can see would lose a right";
  return `${others}.${it.elsewhere ? " It also concerns people whom you can't see." : ""}`;
}

/** Asks before an assignment ends that others have, too, and offers the smaller change. */
export function EndAssignment({ assignment, person, onClose }: Props) {
  const key = person.ref.slice(person.ref.indexOf(":") + 1);
  const ending = useEnding(key, assignment.key);
  const edit = useEdit();
  const act = (it: Edit) => edit.mutate([it], { onSuccess: onClose });
  const it = ending.data;
  const group = it?.group;
  const direct = assignment.subject === person.ref;
  return (
    <Modal
      open
      width={640}
      title={`Remove access: ${assignment.givesName}`}
      onCancel={onClose}
      footer={
        <>
          <Button onClick={onClose}>Cancel</Button>
          {it?.leavable && group?.key && (
            <Button
              type="primary"
              loading={edit.isPending}
              onClick={() =>
                act({ kind: "groups", key: group.key ?? "", drop: { members: [person.ref] } })
              }
            >
              Remove {person.name} from {group.name}
            </Button>
          )}
          <Button
            danger={!direct}
            disabled={!it}
            loading={edit.isPending}
            onClick={() => act({ kind: "assignments", key: assignment.key, remove: true })}
          >
            {direct ? "End the assignment" : "End it for everyone"}
          </Button>
        </>
      }
    >
      {ending.isPending && <Loading what="what would end" rows={3} />}
      {ending.isError && <ProblemAlert problem={ending.error} />}
      {it && (
        <>
          <p>
            {direct
              ? `This assignment is ${person.name}'s own.`
              : `This assignment belongs to ${assignment.subjectName}, not to ${person.name} alone.`}{" "}
            {it.own !== undefined && `If it ends, ${person.name} loses ${count(it.own, "right")}. `}
            {!direct && othersInWords(it)}
          </p>
          {!direct && !it.leavable && (
            <p className="note">
              {person.name} can&apos;t be removed from {assignment.subjectName} by you: they belong
              to it by a rule or through another group, or you need “Manage groups” there.
            </p>
          )}
          {assignment.denies && <p className="note">It denies; ending it may give access back.</p>}
        </>
      )}
      {edit.isError && <ProblemAlert problem={edit.error} />}
    </Modal>
  );
}
