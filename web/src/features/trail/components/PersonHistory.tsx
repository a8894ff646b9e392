import { useState } from "react";
import { Button, Segmented } from "antd";
import { Link } from "react-router";
import { count } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { STEP } from "../model";
import { useTrail } from "../queries";
import { TrailTable } from "./TrailTable";

/** The trail of one person: what was done to them, or what they did. */
export function PersonHistory({ who }: { who: string }) {
  const [side, setSide] = useState("about");
  const [limit, setLimit] = useState(STEP);
  const filter: Record<string, string> =
    side === "by" ? { who } : { kind: "principals", thing: who };
  const trail = useTrail(filter, limit);
  const whole = new URLSearchParams(filter).toString();
  return (
    <section aria-label="History">
      <div className="acts">
        <Segmented
          aria-label="Records"
          value={side}
          options={[
            { value: "about", label: "Changes to them" },
            { value: "by", label: "What they did" },
          ]}
          onChange={(it) => setSide(it)}
        />
        <Link to={`/trail?${whole}`}>Open in the trail</Link>
      </div>
      {trail.isPending ? (
        <Loading what="the history" rows={6} />
      ) : trail.isError ? (
        <ProblemAlert problem={trail.error} onRetry={() => void trail.refetch()} />
      ) : trail.data.lines.length === 0 ? (
        <EmptyState>
          {side === "by" ? "They did nothing that you can see." : "No change that you can see."}
        </EmptyState>
      ) : (
        <>
          <p className="quiet" role="status">
            {count(trail.data.total, "record")}
          </p>
          <TrailTable lines={trail.data.lines} />
          {trail.data.total > trail.data.lines.length && (
            <Button size="small" onClick={() => setLimit(limit + 4 * STEP)}>
              Load older records
            </Button>
          )}
        </>
      )}
    </section>
  );
}
