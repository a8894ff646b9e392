import { useEffect, useMemo } from "react";
import { useAccount } from "../../../app/account";
import { Mandala } from "../../../components/Mandala";
import { ProblemNote } from "../../../components/ProblemNote";
import { count } from "../../../lib/words";
import { VerdictMark } from "../../../components/VerdictMark";
import { Waiting } from "../../../components/Waiting";
import type { Who } from "../../session";
import { AskParts } from "../components/AskParts";
import { AccessTable } from "../components/AccessTable";
import { QuestionLine } from "../components/QuestionLine";
import { Link, useSearchParams } from "react-router";
import { Exports } from "../components/Exports";
import {
  accessAddress,
  CLASSES,
  faultOf,
  narrowed,
  questionOf,
  type Answer,
  type Question,
} from "../model";
import { useAccess } from "../queries";

/** What can they do: the sentence, the figure and the table, all from the address. */
export function AskPage({ who }: { who: Who }) {
  const [params, setParams] = useSearchParams();
  const [account] = useAccount();
  const question = questionOf(params, who.key, account?.key ?? "");
  const fault = faultOf(question.at);
  // an address that names nobody becomes the question about oneself, so that it can be shared
  const complete = params.has("who");
  const begin = account?.key;
  const answer = useAccess(question, complete && account !== undefined && fault === undefined);

  useEffect(() => {
    if (!complete && begin) {
      const own = { who: who.key, in: begin, ...(who.secondFactor && { factor: "1" }) };
      setParams((before) => ({ ...Object.fromEntries(before), ...own }), { replace: true });
    }
  }, [complete, begin, who, setParams]);

  function set(changes: Record<string, string>) {
    const next = new URLSearchParams(params);
    next.set("who", question.who);
    next.set("in", question.in);
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setParams(next);
  }

  return (
    <>
      <AskParts />
      <QuestionLine question={question} answer={answer.data} onChange={set} />
      {(question.revision || question.draft) && (
        <p className="note over">
          {question.revision
            ? `As the model stood after revision ${question.revision}.`
            : "With the draft laid over the model."}{" "}
          <button type="button" className="link" onClick={() => set({ revision: "", draft: "" })}>
            ask as it is now
          </button>
        </p>
      )}
      {fault ? (
        <div className="problem" role="alert">
          <strong>The date cannot be read</strong>
          <p>{fault}</p>
        </div>
      ) : answer.isError ? (
        <ProblemNote problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Waiting what="the answer" />
      ) : (
        <div className={answer.isPlaceholderData ? "answer stale" : "answer"} aria-live="polite">
          <AnswerView
            answer={answer.data}
            question={question}
            area={params.get("area") ?? undefined}
            onArea={(area) => set({ area, routes: "" })}
          />
        </div>
      )}
    </>
  );
}

interface AnswerProps {
  answer: Answer;
  question: Question;
  area: string | undefined;
  onArea: (area: string) => void;
}

function AnswerView({ answer, question, area, onArea }: AnswerProps) {
  const permissions = useMemo(
    () => new Map(answer.permissions.map((it) => [it.key, it])),
    [answer.permissions],
  );
  const regions = useMemo(() => narrowed(answer.regions, area), [answer.regions, area]);
  const chosen = answer.figure.sectors.find((it) => it.key === area);
  if (answer.refusal) {
    return (
      <div className="empty">
        <h2>{refusalInWords(answer)}</h2>
        <p>
          {answer.refusal === "inactive"
            ? "Who is not active can do nothing, whatever is assigned."
            : answer.refusal === "absent"
              ? "Choose another revision, or leave the draft out."
              : "Choose another date, or somebody who has delegated to them."}
        </p>
      </div>
    );
  }
  return (
    <>
      <figure className="instrument">
        <Mandala
          figure={answer.figure}
          size={500}
          centre={answer.principal.name.split(" ")[0] ?? answer.principal.name}
          chosen={chosen?.key}
          onChoose={(sector) => onArea(sector === area ? "" : sector)}
          label={`Access of ${answer.principal.name}`}
        />
        <figcaption>
          <Legend />
        </figcaption>
      </figure>
      <section className="regions" aria-label="Access by place">
        {chosen && (
          <p className="narrowed">
            <span>
              Only <strong>{chosen.name}</strong>
            </span>
            <button type="button" className="link" onClick={() => onArea("")}>
              Show all areas
            </button>
          </p>
        )}
        {answer.draftCut ? (
          <p className="note">The draft's effect shows only in accounts you can read.</p>
        ) : (
          answer.limited && <p className="note">This covers only the accounts you can ask about.</p>
        )}
        {answer.everybody && <Through answer={answer} />}
        {regions.length === 0 ? (
          <div className="empty">
            <p>{answer.principal.name} can do nothing here.</p>
          </div>
        ) : (
          <AccessTable
            key={area ?? ""}
            regions={regions}
            permissions={permissions}
            question={question}
            unfold={chosen !== undefined}
          />
        )}
        <Exports address={accessAddress(question)} />
      </section>
    </>
  );
}

/** What comes from whom they may act for. */
function Through({ answer }: { answer: Answer }) {
  return (
    <div className="through">
      {answer.through.length === 0 ? (
        <p className="note">
          They may act for nobody then{answer.hiddenThrough && " whom you can ask about"}.
        </p>
      ) : (
        <ul aria-label="What comes from whom">
          {answer.through.map((it) => (
            <li key={it.key}>
              acting for{" "}
              <Link
                to={`/ask?who=${answer.principal.key}&for=${it.key}&in=${answer.in?.key ?? ""}`}
              >
                {it.name}
              </Link>
              : {count(it.rights, "right")}
              {it.more > 0
                ? `, ${it.more.toLocaleString("en")} of them not their own`
                : ", none beyond their own"}
            </li>
          ))}
        </ul>
      )}
      {answer.hiddenThrough && answer.through.length > 0 && (
        <p className="note">They can also act for others you can't ask about.</p>
      )}
    </div>
  );
}

function refusalInWords(answer: Answer): string {
  const name = answer.principal.name;
  if (answer.refusal === "absent") {
    return `${name} is not in the directory of the model you ask about.`;
  }
  return answer.refusal === "inactive"
    ? `${answer.actingFor ? `${name} or ${answer.actingFor.name}` : name} is not active then.`
    : `${name} may not act for ${answer.actingFor?.name ?? "them"} then.`;
}

function Legend() {
  return (
    <>
      <span>
        <span>from the centre:</span>
        {CLASSES.map((it) => (
          <span key={it} className="legend-item">
            <VerdictMark verdict="allowed" accessClass={it} risk="moderate" /> {it}
          </span>
        ))}
        <span className="legend-item">darker: riskier</span>
        <span className="legend-item">wider: more of the area</span>
      </span>
      <span>
        <span className="legend-item">
          <VerdictMark verdict="blocked" accessClass="view" risk="high" /> gate missing
        </span>
        <span className="legend-item">
          <VerdictMark verdict="denied" accessClass="administer" risk="high" /> denied
        </span>
        <span className="legend-item">
          <VerdictMark verdict="none" accessClass="view" risk="low" /> not given
        </span>
      </span>
    </>
  );
}
