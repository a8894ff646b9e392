import { useEffect } from "react";
import { faultOf, questionOf } from "@/entities/access/model";
import { useAccess } from "@/entities/access/queries";
import { useAccount } from "@/entities/account/queries";
import { useWho } from "@/entities/session";
import { Problem } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { AnswerView } from "../components/AnswerView";
import { QuestionLine } from "../components/QuestionLine";
import { QuestionTabs } from "../components/QuestionTabs";

/** What can they do: the question, the mandala and the table, all from the address. */
export function AskPage() {
  const who = useWho();
  const [params, set] = useAddress();
  const [account] = useAccount();
  const question = questionOf(params, who.key, account?.key ?? "");
  const fault = faultOf(question.at);
  // An address without a person becomes the question about oneself, so that it can be shared.
  const complete = params.has("who");
  const begin = account?.key;
  const answer = useAccess(question, complete && account !== undefined && fault === undefined);

  useEffect(() => {
    if (!complete && begin) {
      set({ who: who.key, in: begin, factor: who.secondFactor ? "1" : "" }, { replace: true });
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps -- set changes with each address
  }, [complete, begin, who]);

  const change = (changes: Record<string, string>) =>
    set({ who: question.who, in: question.in, ...changes });

  return (
    <>
      <QuestionTabs />
      <QuestionLine question={question} answer={answer.data} onChange={change} />
      {(question.revision ?? question.draft) && (
        <p className="warning">
          {question.revision
            ? `As of revision ${question.revision}.`
            : "With the draft applied, before it takes effect."}{" "}
          <LinkButton onClick={() => change({ revision: "", draft: "" })}>Ask as of now</LinkButton>
        </p>
      )}
      {fault ? (
        <ProblemAlert problem={new Problem(400, "The date can't be read", fault)} />
      ) : answer.isError ? (
        <ProblemAlert problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Loading what="the answer" rows={12} />
      ) : (
        <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
          <AnswerView
            answer={answer.data}
            question={question}
            area={params.get("area") ?? undefined}
            onArea={(area) => change({ area, routes: "" })}
          />
        </div>
      )}
    </>
  );
}
