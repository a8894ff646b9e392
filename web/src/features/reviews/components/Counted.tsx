import { Button } from "antd";
import { Link } from "react-router";
import { PAST } from "@/entities/decision/model";
import { useTakeBack, type Item } from "@/entities/decision/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

const OUTCOMES: Record<NonNullable<Item["outcome"]>, string> = {
  waiting: "It waits for an approval.",
  "in-force": "It is in force.",
  answered: "Whoever runs the round answers for it.",
};

interface Props {
  round: number;
  item: Item;
  /** Whether the round is: then the decision can be taken back. */
  open: boolean;
}

/** An item whose decision counts: what became of it. */
export function Counted({ round, item, open }: Props) {
  const takeBack = useTakeBack(round);
  return (
    <>
      <p>
        {item.said}:{" "}
        {item.verdict ? (
          <>
            {PAST[item.verdict]}, and your decision counts. {item.outcome && OUTCOMES[item.outcome]}{" "}
            {item.revision !== undefined && (
              <Link to={`/trail?revision=${item.revision}`}>Revision {item.revision}</Link>
            )}
          </>
        ) : (
          "this round is over."
        )}
      </p>
      {item.remark && <p className="note">{item.remark}</p>}
      {open && item.state === "done" && item.outcome !== "answered" && item.verdict && (
        <Button
          size="small"
          loading={takeBack.isPending}
          onClick={() => takeBack.mutate(item.number)}
        >
          Take back
        </Button>
      )}
      {takeBack.isError && <ProblemAlert problem={takeBack.error} />}
    </>
  );
}
