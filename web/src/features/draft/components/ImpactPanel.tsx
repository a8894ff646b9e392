import { Progress } from "antd";
import { useCancelImpact, useImpact, type DraftView } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { ImpactView } from "./ImpactView";

const WITHOUT: Record<string, string> = {
  faulty: "The impact is computed once you fix the errors listed on the left.",
  hidden: "Only people who can read everything in this draft can see its impact.",
  failed:
    "The impact could not be computed. Mandala tries again; if it keeps failing, ask your administrator.",
};

/** What a draft does to everyone, or how far its computation is. */
export function ImpactPanel({ draft }: { draft: DraftView }) {
  const impact = useImpact(draft.id, draft.content, draft.revision);
  const cancel = useCancelImpact(draft.id);
  if (impact.isPending) return <Loading what="the impact" />;
  if (impact.isError) {
    return <ProblemAlert problem={impact.error} onRetry={() => void impact.refetch()} />;
  }
  const it = impact.data;
  const without = WITHOUT[it.state];
  if (without) return <p className="note">{without}</p>;
  if (it.state === "cancelled") {
    return (
      <p className="note">
        Cancelled. <LinkButton onClick={() => void impact.refetch()}>Compute again</LinkButton>
      </p>
    );
  }
  if (it.state === "running") {
    return (
      <div role="status">
        <p>
          Computing the impact on {count(it.of, "person", "people")}: {it.done.toLocaleString("en")}{" "}
          done
        </p>
        <Progress
          aria-label="Impact"
          percent={it.of === 0 ? 0 : Math.round((100 * it.done) / it.of)}
        />
        <LinkButton onClick={() => cancel.mutate()}>Cancel</LinkButton>
      </div>
    );
  }
  return <ImpactView impact={it} draft={draft} />;
}
