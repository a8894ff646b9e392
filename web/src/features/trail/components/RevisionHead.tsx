import { Button } from "antd";
import { Link, useNavigate } from "react-router";
import { useRevert } from "@/entities/draft/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

/** One revision: revert it, or ask as of it. */
export function RevisionHead({ number }: { number: number }) {
  const revert = useRevert();
  const navigate = useNavigate();
  return (
    <section aria-label={`Revision ${number}`}>
      <h2 className="part">Revision {number}</h2>
      <div className="acts">
        <Button
          size="small"
          loading={revert.isPending}
          onClick={() =>
            revert.mutate(number, { onSuccess: (it) => void navigate(`/drafts/${it.id}`) })
          }
        >
          Revert in a new draft
        </Button>
        <Link to={`/ask?revision=${number}`}>Ask as of this revision</Link>
      </div>
      {revert.isError && <ProblemAlert problem={revert.error} />}
    </section>
  );
}
