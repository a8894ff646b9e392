import type { ReactNode } from "react";
import { Button } from "antd";
import { count } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { useTrail } from "../queries";
import { TrailTable } from "./TrailTable";

interface Props {
  trail: ReturnType<typeof useTrail>;
  /** What is loading, as "the trail". */
  what: string;
  /** Shown where there is no record. */
  none: ReactNode;
  onMore: () => void;
}

/** Records of the trail as they load: how many, the newest, and a way to older ones. */
export function TrailLines({ trail, what, none, onMore }: Props) {
  if (trail.isPending) return <Loading what={what} rows={12} />;
  if (trail.isError) {
    return <ProblemAlert problem={trail.error} onRetry={() => void trail.refetch()} />;
  }
  const { total, limited, lines } = trail.data;
  return (
    <>
      <p className="quiet" role="status">
        {count(total, "record")}
        {limited && ", of the accounts whose trail you can read and your own"}
      </p>
      {lines.length === 0 ? <EmptyState>{none}</EmptyState> : <TrailTable lines={lines} />}
      {total > lines.length && (
        <Button size="small" onClick={onMore}>
          Load older records
        </Button>
      )}
    </>
  );
}
