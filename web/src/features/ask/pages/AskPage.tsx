import { useEffect } from "react";
import { faultOf, questionOf } from "@/entities/access/model";
import { useAccess } from "@/entities/access/queries";
import { useAccount } from "@/entities/account/queries";
import { useWho } from "@/entities/session";
import { useAddress } from "@/shared/lib/useAddress";
import { LinkButton } from "@/shared/ui/LinkButton";
import { AnswerPanel } from "../components/AnswerPanel";
import { QuestionLine } from "../components/QuestionLine";
import { QuestionTabs } from "../components/QuestionTabs";

/** What can they do: the question, the mandala and the table, all from the address. */
export function AskPage() {
  const who = useWho();
  const [params, set] = useAddress();
  const [account] = useAccount();
  const question = questionOf(params, who.key, account?.key ?? "");
  // An address without a person becomes the question about oneself, so that it can be shared.
  const complete = params.has("who");
  const begin = account?.key;
  const answer = useAccess(
    question,
    complete && account !== undefined && faultOf(question.at) === undefined,
  );

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
      <AnswerPanel question={question} answer={answer} params={params} onChange={change} />
    </>
  );
}
