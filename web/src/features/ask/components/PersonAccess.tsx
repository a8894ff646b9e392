import { faultOf, questionOf } from "@/entities/access/model";
import { useAccess } from "@/entities/access/queries";
import { Problem } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { AnswerView } from "./AnswerView";
import { QuestionLine } from "./QuestionLine";

/** What one person can do, on their own page: the question is theirs, the rest is in the address. */
export function PersonAccess({ who }: { who: string }) {
  const [params, set] = useAddress();
  const question = { ...questionOf(params, who, ""), who, factor: params.get("factor") !== "0" };
  const fault = faultOf(question.at);
  const answer = useAccess(question, fault === undefined);
  const change = ({ factor, ...changes }: Record<string, string>) =>
    set({ ...changes, ...(factor !== undefined && { factor: factor === "1" ? "" : "0" }) });
  if (fault) return <ProblemAlert problem={new Problem(400, "The date can't be read", fault)} />;
  return (
    <>
      <QuestionLine question={question} answer={answer.data} onChange={change} fixed />
      {answer.isError ? (
        <ProblemAlert problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Loading what="the answer" rows={8} />
      ) : (
        <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
          <AnswerView
            answer={answer.data}
            question={question}
            area={params.get("area") ?? undefined}
            onArea={(area) => change({ area, routes: "" })}
            withoutFigure
          />
        </div>
      )}
    </>
  );
}
