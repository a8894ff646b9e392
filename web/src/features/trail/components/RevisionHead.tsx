import { useState } from "react";
import { Button } from "antd";
import { Link, useNavigate } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { useDecisionsOf } from "@/entities/decision/queries";
import { ReviewedTable } from "@/entities/decision/ReviewedTable";
import { useRevert } from "@/entities/draft/queries";
import { count, dateOf, listed } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useRevision } from "../queries";
import { RevisionChanges } from "./RevisionChanges";

/** One revision: what it is, why it was made; revert all or part of it, or ask as of it. */
export function RevisionHead({ number }: { number: number }) {
  const revision = useRevision(number);
  return (
    <section aria-label={`Revision ${number}`}>
      <h2 className="part">Revision {number}</h2>
      {revision.isPending && <Loading what={`revision ${number}`} rows={2} />}
      {revision.isError && <ProblemAlert problem={revision.error} />}
      {revision.data && <Head number={number} revision={revision.data} />}
    </section>
  );
}

/** The decisions of a review that it carried out, as far as the viewer may read them. */
function Decisions({ revision }: { revision: number }) {
  const rows = useDecisionsOf(revision).data?.rows ?? [];
  return rows.length > 0 ? <ReviewedTable rows={rows} /> : null;
}

interface HeadProps {
  number: number;
  revision: Schemas["RevisionChanges"];
}

function Head({ number, revision }: HeadProps) {
  const revert = useRevert();
  const navigate = useNavigate();
  const [only, setOnly] = useState<number[]>();
  const it = revision.revision;
  const options = { onSuccess: (made: { id: string }) => void navigate(`/drafts/${made.id}`) };
  return (
    <>
      <p>
        <strong>{it.title}</strong>, by {it.author ?? "Mandala"}, {dateOf(it.at)}
      </p>
      {it.reason && <p>Reason: {it.reason}</p>}
      {it.reference && <p>Reference: {it.reference}</p>}
      {it.reference?.startsWith("review ") && <Decisions revision={number} />}
      {it.approvedBy.length > 0 && <p>Approved by {listed(it.approvedBy)}</p>}
      <div className="acts">
        {!it.whole && (
          <Button
            size="small"
            loading={revert.isPending}
            disabled={only?.length === 0}
            onClick={() => revert.mutate({ revision: number, ...(only && { only }) }, options)}
          >
            {only
              ? `Revert ${count(only.length, "change")} in a new draft`
              : "Revert in a new draft"}
          </Button>
        )}
        {revision.changes.length > 1 && !revision.hidden && (
          <Button
            size="small"
            onClick={() => setOnly(only ? undefined : revision.changes.map((each) => each.at))}
          >
            {only ? "Revert all of it" : "Choose changes to revert"}
          </Button>
        )}
        <Link to={`/ask?revision=${number}`}>Ask as of this revision</Link>
      </div>
      {revert.isError && <ProblemAlert problem={revert.error} />}
      {only && <RevisionChanges changes={revision.changes} chosen={only} onChoose={setOnly} />}
    </>
  );
}
