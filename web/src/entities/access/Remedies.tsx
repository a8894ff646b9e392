import { Button } from "antd";
import { useMayChange } from "@/entities/account/queries";
import { useEdit } from "@/entities/draft/queries";
import { editsFrom } from "@/shared/lib/thing";
import { count } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { Question } from "./model";
import { useRemedies, type RemedyView } from "./queries";
import styles from "./Remedies.module.css";

interface Props {
  question: Question;
  permission: string;
  resource: string;
}

/** How to grant or to remove an access; each way goes into the draft as it is shown. */
export function Remedies({ question, permission, resource }: Props) {
  const remedies = useRemedies(question, permission, resource);
  const changes = useMayChange();
  if (remedies.isPending) return <Loading what="the remedies" rows={3} />;
  if (remedies.isError) {
    return <ProblemAlert problem={remedies.error} onRetry={() => void remedies.refetch()} />;
  }
  const { give, end, bySecondFactor, hidden, verdict } = remedies.data;
  const allowed = verdict === "allowed";
  const all = allowed ? end : give;
  return (
    <div className={styles["remedies"]}>
      <h3>
        {allowed
          ? "How to remove this access: removals first, smallest effect first"
          : "How to grant this access"}
      </h3>
      {bySecondFactor && <p className="note">Signing in with a second factor is enough.</p>}
      {all.length === 0 && !bySecondFactor && (
        <p className="note">
          {hidden
            ? "The only ways change things you can't see. Ask an administrator of that account."
            : "No single draft does it: the cause lies outside what a draft changes, such as a date."}
        </p>
      )}
      {!changes && all.length > 0 && (
        <p className="note">
          You can’t change access yourself. What you propose becomes a draft, which you then send to
          somebody who can apply it.
        </p>
      )}
      <ol>
        {all.map((way, at) => (
          <Remedy key={at} way={way} act={changes ? "Add to draft" : "Propose"} />
        ))}
      </ol>
      {hidden && all.length > 0 && <p className="note">Other ways change things you can't see.</p>}
    </div>
  );
}

function effectOf(way: RemedyView): string {
  const own = `changes ${count(way.own, "right")} of theirs`;
  const others =
    way.people > 0
      ? ` and ${count(way.others, "right")} of ${count(way.people, "other person", "other people")}`
      : way.elsewhere
        ? ""
        : " and no one else’s";
  return own + others + (way.elsewhere ? ", and of people you can't see" : "");
}

function Remedy({ way, act }: { way: RemedyView; act: string }) {
  const edit = useEdit();
  const label = edit.isSuccess ? "Added to draft" : act;
  return (
    <li>
      <div>
        {way.said.join("; ")}
        <small>{effectOf(way)}</small>
        {way.denies && (
          <small>
            The deny stays behind: it also overrides access that is granted later, until you remove
            it.
          </small>
        )}
        {edit.isError && <ProblemAlert problem={edit.error} />}
      </div>
      <Button
        size="small"
        aria-label={`${label}: ${way.said.join("; ")}`}
        disabled={edit.isSuccess}
        loading={edit.isPending}
        onClick={() => edit.mutate(editsFrom(way.edits))}
      >
        {label}
      </Button>
    </li>
  );
}
