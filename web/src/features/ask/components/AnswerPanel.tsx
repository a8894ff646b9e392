import { faultOf, type Question } from "@/entities/access/model";
import type { useAccess } from "@/entities/access/queries";
import { Problem } from "@/shared/api/client";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { AnswerView } from "./AnswerView";

interface Props {
  question: Question;
  answer: ReturnType<typeof useAccess>;
  params: URLSearchParams;
  onChange: (changes: Record<string, string>) => void;
  /** Leaves the mandala out, where the page has it already. */
  withoutFigure?: boolean;
}

/** The answer to what somebody can do as it loads; else what is wrong with the question. */
export function AnswerPanel({ question, answer, params, onChange, withoutFigure }: Props) {
  const fault = faultOf(question.at);
  if (fault) return <ProblemAlert problem={new Problem(400, "The date can't be read", fault)} />;
  if (answer.isError) {
    return <ProblemAlert problem={answer.error} onRetry={() => void answer.refetch()} />;
  }
  if (!answer.data) return <Loading what="the answer" rows={12} />;
  return (
    <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
      <AnswerView
        answer={answer.data}
        question={question}
        area={params.get("area") ?? undefined}
        onArea={(area) => onChange({ area, routes: "" })}
        onActive={() => onChange({ active: "1" })}
        {...(withoutFigure && { withoutFigure })}
      />
    </div>
  );
}
