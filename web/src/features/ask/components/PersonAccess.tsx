import { faultOf, questionOf } from "@/entities/access/model";
import { useAccess } from "@/entities/access/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { AnswerPanel } from "./AnswerPanel";
import { QuestionLine } from "./QuestionLine";

interface Props {
  who: string;
  /** Their home account. */
  home: string;
  /** Whether they are not active yet. */
  waits: boolean;
  /** Whether only the active draft has them. */
  drafted: boolean;
}

/** Every account, in the address; without a value there it is the home account. */
const EVERY = "*";

/**
 * What one person can do, on their own page: the question is theirs, the rest is in the address. At
 * first it asks about their home account and across its bridges, and of somebody who is not active
 * yet what they will be able to do.
 */
export function PersonAccess({ who, home, waits, drafted }: Props) {
  const [params, set] = useAddress();
  const asked = questionOf(params, who, home);
  const question = {
    ...asked,
    who,
    factor: params.get("factor") !== "0",
    ...(drafted && { draft: "open" }),
    ...(waits && params.get("active") !== "0" && { asActive: true }),
    ...(params.has("in") ? { in: asked.in === EVERY ? "" : asked.in } : { doors: home !== "" }),
  };
  const answer = useAccess(question, faultOf(question.at) === undefined);
  const change = ({ factor, ...changes }: Record<string, string>) =>
    set({
      ...changes,
      ...(changes["in"] === "" && { in: EVERY }),
      ...(factor !== undefined && { factor: factor === "1" ? "" : "0" }),
    });
  return (
    <>
      <QuestionLine question={question} answer={answer.data} onChange={change} fixed />
      <AnswerPanel
        question={question}
        answer={answer}
        params={params}
        onChange={change}
        withoutFigure
      />
    </>
  );
}
