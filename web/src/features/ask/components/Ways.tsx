import { Button } from "antd";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import type { Edit } from "../../../lib/thing";
import { count } from "../../../lib/words";
import { useEdit } from "../../draft/queries";
import type { Question } from "../model";
import { useWays, type WayView } from "../queries";

interface Props {
  question: Question;
  permission: string;
  resource: string;
}

/** What would give it, or what must go for it to end; each goes into the draft as it stands. */
export function Ways({ question, permission, resource }: Props) {
  const ways = useWays(question, permission, resource);
  if (ways.isPending) return <Waiting what="the ways" />;
  if (ways.isError) {
    return <ProblemNote problem={ways.error} onRetry={() => void ways.refetch()} />;
  }
  const { give, end, bySecondFactor, hidden, verdict } = ways.data;
  const allowed = verdict === "allowed";
  const all = allowed ? end : give;
  return (
    <div className="ways">
      <h3>{allowed ? "What must go for it to end, the cheapest first" : "What would give it"}</h3>
      {bySecondFactor && <p className="note">Signing in with a second factor is enough.</p>}
      {all.length === 0 && !bySecondFactor && (
        <p className="note">
          {hidden
            ? "The only ways lead through what you can't see."
            : "No draft alone does it: something stands in the way that a draft does not change."}
        </p>
      )}
      <ol>
        {all.map((way, at) => (
          <WayRow key={at} way={way} />
        ))}
      </ol>
      {hidden && all.length > 0 && (
        <p className="note">Other ways lead through what you can't see.</p>
      )}
    </div>
  );
}

function WayRow({ way }: { way: WayView }) {
  const edit = useEdit();
  return (
    <li>
      <span>
        {way.said.join("; ")}
        <small>
          changes {count(way.own, "right")} of theirs
          {way.people > 0
            ? ` and ${count(way.others, "right")} of ${count(way.people, "other", "others")}`
            : way.elsewhere
              ? ""
              : ", of nobody else"}
          {way.elsewhere && ", and of others you can't see"}
        </small>
        {edit.isError && <ProblemNote problem={edit.error} />}
      </span>
      <Button
        size="small"
        disabled={edit.isSuccess}
        loading={edit.isPending}
        onClick={() => edit.mutate(way.edits as unknown as Edit[])}
      >
        {edit.isSuccess ? "In the draft" : "Into the draft"}
      </Button>
    </li>
  );
}
