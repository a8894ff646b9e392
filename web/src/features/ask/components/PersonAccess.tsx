import { faultOf, questionOf } from "@/entities/access/model";
import { useAccess } from "@/entities/access/queries";
import { Problem } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { AnswerView } from "./AnswerView";
import { QuestionLine } from "./QuestionLine";

/** Stands for every account in the address, where nothing stands for the home account. */
const EVERY = "*";

/**
 * What one person can do, on their own page: the question is theirs, the rest is in the address. At
 * first it asks about their home account and across its bridges.
 */
export function PersonAccess({ who, home }: { who: string; home: string }) {
  const [params, set] = useAddress();
  const asked = questionOf(params, who, home);
  const question = {
    ...asked,
    who,
    factor: params.get("factor") !== "0",
    ...(params.has("in") ? { in: asked.in === EVERY ? "" : asked.in } : { doors: home !== "" }),
  };
  const fault = faultOf(question.at);
  const answer = useAccess(question, fault === undefined);
  const change = ({ factor, ...changes }: Record<string, string>) =>
    set({
      ...changes,
      ...(changes["in"] === "" && { in: EVERY }),
      ...(factor !== undefined && { factor: factor === "1" ? "" : "0" }),
    });
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
