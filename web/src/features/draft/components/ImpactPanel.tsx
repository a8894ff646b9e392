import { useState } from "react";
import { Progress } from "antd";
import { Mandala } from "../../../components/Mandala";
import { ProblemNote } from "../../../components/ProblemNote";
import { VerdictMark } from "../../../components/VerdictMark";
import { Waiting } from "../../../components/Waiting";
import type { AccessClass, Risk } from "../../../app/theme";
import { count } from "../../../lib/words";
import { AreaTable } from "../../ask/components/AreaTable";
import { RightLines } from "../../ask/components/RightLines";
import { balance, byRule } from "../model";
import {
  useCancelImpact,
  useImpact,
  usePersonImpact,
  type DraftView,
  type ImpactView,
} from "../queries";

/** What the draft does to everyone, down to each right and its route. */
export function ImpactPanel({ draft }: { draft: DraftView }) {
  const impact = useImpact(draft.id, draft.content, draft.revision);
  const cancel = useCancelImpact(draft.id);
  if (impact.isPending) return <Waiting what="what it does" />;
  if (impact.isError) {
    return <ProblemNote problem={impact.error} onRetry={() => void impact.refetch()} />;
  }
  const it = impact.data;
  if (it.state === "faulty") {
    return <p className="note">What it does is told once what is wrong is mended.</p>;
  }
  if (it.state === "hidden") {
    return <p className="note">What it does is told to those who may read all that it names.</p>;
  }
  if (it.state === "failed") {
    return (
      <p className="note">
        The impact could not be computed. Mandala tries again; if it keeps failing, ask your
        administrator.
      </p>
    );
  }
  if (it.state === "cancelled") {
    return (
      <p className="note">
        Cancelled.{" "}
        <button type="button" className="link" onClick={() => void impact.refetch()}>
          Look again
        </button>
      </p>
    );
  }
  if (it.state === "running") {
    return (
      <div className="impact-progress">
        <p>
          Looking at {count(it.done, "person", "people")} of {it.of.toLocaleString("en")}
        </p>
        <Progress percent={it.of === 0 ? 0 : Math.round((100 * it.done) / it.of)} />
        <button type="button" className="link" onClick={() => cancel.mutate()}>
          Cancel
        </button>
      </div>
    );
  }
  return <Impact impact={it} draft={draft} />;
}

function Impact({ impact, draft }: { impact: ImpactView; draft: DraftView }) {
  const [person, setPerson] = useState<string>();
  return (
    <div className="impact">
      <p className="impact-summary" role="status">
        {impact.summary}
      </p>
      <Rules title="Begins to be broken" findings={impact.begin} raised />
      <Rules title="Is mended" findings={impact.end} />
      {impact.denies.length > 0 && (
        <p className="wrong">
          A deny goes away, and that widens access: {impact.denies.join("; ")}.
        </p>
      )}
      {impact.people.length > 0 && (
        <>
          <h3>Who</h3>
          <ul className="impact-people">
            {impact.people.map((it) => (
              <li key={it.key}>
                <button
                  type="button"
                  aria-expanded={person === it.key}
                  onClick={() => setPerson(person === it.key ? undefined : it.key)}
                >
                  <strong>{it.name}</strong>
                  {it.author && <em> you</em>}{" "}
                  <small>{[it.title, it.account].filter(Boolean).join(", ")}</small>
                  <span className="impact-balance">
                    {it.lockedOut
                      ? "is left with nothing"
                      : balance(it.gained, it.lost, it.rerouted)}
                  </span>
                </button>
                {person === it.key && <PersonImpact draft={draft} person={it.key} />}
              </li>
            ))}
          </ul>
          {impact.more > 0 && (
            <p className="note">and {count(impact.more, "person", "people")} more</p>
          )}
        </>
      )}
      {impact.elsewhere && (
        <p className="note">
          It also concerns people or rules in accounts you can't see; no number here counts them.
        </p>
      )}
      {impact.unchanged > 0 && (
        <p className="note">
          {count(impact.unchanged, "person", "people")} more {impact.unchanged === 1 ? "is" : "are"}{" "}
          touched and {impact.unchanged === 1 ? "keeps" : "keep"} exactly what they have
          {(impact.rerouted ?? 0) > 0 &&
            `; ${count(impact.rerouted ?? 0, "right")} of ${count(impact.reroutedPeople, "person", "people")} merely ${impact.rerouted === 1 ? "changes" : "change"} route: another assignment or bridge gives them`}
          .
        </p>
      )}
      {impact.permissions.length > 0 && (
        <>
          <h3>Which rights</h3>
          <table className="plain">
            <thead>
              <tr>
                <th scope="col">permission</th>
                <th scope="col">risk</th>
                <th scope="col" className="right">
                  gained
                </th>
                <th scope="col" className="right">
                  lost
                </th>
              </tr>
            </thead>
            <tbody>
              {impact.permissions.map((it) => (
                <tr key={it.key}>
                  <th scope="row">
                    <VerdictMark
                      verdict="allowed"
                      accessClass={it.accessClass as AccessClass}
                      risk={it.risk as Risk}
                    />{" "}
                    {it.name}
                  </th>
                  <td>{it.risk}</td>
                  <td className="right">{it.gained > 0 ? it.gained.toLocaleString("en") : ""}</td>
                  <td className="right">{it.lost > 0 ? it.lost.toLocaleString("en") : ""}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <h3>Where</h3>
          <AreaTable areas={impact.areas} words={{ gained: "gained", lost: "lost" }} />
        </>
      )}
    </div>
  );
}

interface RulesProps {
  title: string;
  findings: ImpactView["begin"];
  raised?: boolean;
}

function Rules({ title, findings, raised }: RulesProps) {
  if (findings.length === 0) return null;
  return (
    <>
      <h3>{title}</h3>
      <ul className={raised ? "findings raised" : "findings"}>
        {byRule(findings).map((it) => (
          <li key={it.key}>
            <strong>{it.name}</strong> <small>{it.kind}</small> {it.said.join("; ")}
            {it.more > 0 && `; and ${it.more} more`}
          </li>
        ))}
      </ul>
    </>
  );
}

/** One person before and after: both mandalas, each right that differs, and its routes. */
function PersonImpact({ draft, person }: { draft: DraftView; person: string }) {
  const impact = usePersonImpact(draft.id, person, draft.content);
  if (impact.isPending) return <Waiting what="what they gain and lose" />;
  if (impact.isError) return <ProblemNote problem={impact.error} />;
  const it = impact.data;
  const question = {
    who: person,
    in: "",
    doors: true,
    at: "",
    factor: true,
    actingFor: "",
  };
  return (
    <div className="person-impact">
      <div className="before-after">
        {it.before && (
          <figure>
            <Mandala
              figure={it.before}
              size={150}
              edges={{ sunken: it.less }}
              label={`${it.person.name} before`}
            />
            <figcaption>before · {count(it.before.rights, "right")}</figcaption>
          </figure>
        )}
        {it.after && (
          <figure>
            <Mandala
              figure={it.after}
              size={150}
              edges={{ raised: it.more }}
              label={`${it.person.name} after`}
            />
            <figcaption>after · {count(it.after.rights, "right")}</figcaption>
          </figure>
        )}
      </div>
      <RightLines
        lines={it.lines}
        words={{ gained: "gained on", lost: "lost on" }}
        question={(each) => (each.gained > 0 ? { ...question, draft: draft.id } : question)}
      />
    </div>
  );
}
