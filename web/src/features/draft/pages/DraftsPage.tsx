import { Button } from "antd";
import { Link, useNavigate } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { ago, count } from "../../../lib/words";
import type { Schemas } from "../../../api/client";
import { useBegin, useDrafts } from "../queries";

/** One's drafts, and those of others that wait for a second person. */
export function DraftsPage() {
  const drafts = useDrafts();
  const begin = useBegin();
  const navigate = useNavigate();
  if (drafts.isPending) return <Waiting what="the drafts" />;
  if (drafts.isError) {
    return <ProblemNote problem={drafts.error} onRetry={() => void drafts.refetch()} />;
  }
  const { mine, waiting, judging } = drafts.data;
  return (
    <>
      <header className="page-head">
        <h1>Drafts</h1>
        <p className="note">
          Whatever you change on any page goes into your open draft. Nothing happens until you apply
          it.
        </p>
        <Button
          size="small"
          onClick={() =>
            begin.mutate("", {
              onSuccess: (it) =>
                void navigate(`/drafts/${(it as Schemas["OpenDraft"]).draft?.id ?? ""}`),
            })
          }
        >
          Begin another
        </Button>
      </header>
      {waiting.length > 0 && (
        <>
          <h2 className="part">Waiting for a second person</h2>
          <DraftTable drafts={waiting} />
        </>
      )}
      {judging > 0 && (
        <p className="note" role="status">
          Checking whether {count(judging, "more draft")} {judging === 1 ? "needs" : "need"} your
          approval…
        </p>
      )}
      <h2 className="part">Yours</h2>
      {mine.length === 0 ? (
        <p className="note">You have none yet.</p>
      ) : (
        <DraftTable drafts={mine} />
      )}
    </>
  );
}

function DraftTable({ drafts }: { drafts: Schemas["Summary"][] }) {
  const now = new Date();
  return (
    <table className="plain">
      <thead>
        <tr>
          <th scope="col">draft</th>
          <th scope="col">by</th>
          <th scope="col">state</th>
          <th scope="col">changes</th>
          <th scope="col">touched</th>
        </tr>
      </thead>
      <tbody>
        {drafts.map((it) => (
          <tr key={it.id}>
            <th scope="row">
              <Link to={`/drafts/${it.id}`}>{it.name ?? "Draft without a name"}</Link>
            </th>
            <td>{it.mine ? "you" : it.owner.name}</td>
            <td>
              {it.state}
              {it.appliedAs !== undefined && ` as revision ${it.appliedAs}`}
            </td>
            <td>{count(it.size, "change")}</td>
            <td>{ago(it.changedAt, now)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
