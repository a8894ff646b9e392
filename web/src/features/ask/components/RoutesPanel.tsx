import { useState } from "react";
import { Link } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import type { Schemas } from "../../../api/client";
import { chainsPage, routesAddress, type Question } from "../model";
import { useRoutes } from "../queries";
import { Exports } from "./Exports";
import { Ways } from "./Ways";

interface Props {
  question: Question;
  permission: string;
  resource: string;
}

const VERDICTS: Record<string, string> = {
  allowed: "allowed",
  denied: "denied",
  blocked: "blocked, a gate is missing",
  none: "not given",
  inactive: "not active",
  absent: "not in the directory then",
  "no-delegation": "no delegation",
};

/** Why, and why not: routes from left to right, those that do not count now dotted below. */
export function RoutesPanel({ question, permission, resource }: Props) {
  const routes = useRoutes(question, permission, resource);
  const [ways, setWays] = useState(false);
  if (routes.isPending) return <Waiting what="the routes" />;
  if (routes.isError) {
    return <ProblemNote problem={routes.error} onRetry={() => void routes.refetch()} />;
  }
  const answer = routes.data;
  const by = answer.live.length > 0 ? ` by ${count(answer.live.length, "route")}` : "";
  return (
    <section className="routes" aria-label="Routes">
      <h2>
        {answer.permission.name} · on {answer.resource.name} ·{" "}
        {VERDICTS[answer.verdict] ?? answer.verdict}
        {by}
        {answer.actingFor && `, acting for ${answer.actingFor.name}`}
      </h2>
      {answer.live.map((route, i) => (
        <Thread key={i} route={route} />
      ))}
      {answer.near.length > 0 && (
        <>
          <h3>Would give it, but does not now</h3>
          {answer.near.map((route, i) => (
            <Thread key={i} route={route} />
          ))}
          {answer.moreNear > 0 && <p className="note">and {answer.moreNear} more</p>}
        </>
      )}
      {answer.live.length + answer.near.length === 0 && (
        <p className="note">No assignment to them, or to any group, would give it here.</p>
      )}
      {!question.revision &&
        (ways ? (
          <Ways question={question} permission={permission} resource={resource} />
        ) : (
          <button type="button" className="link" onClick={() => setWays(true)}>
            {answer.verdict === "allowed" ? "What must go for it to end?" : "What would give it?"}
          </button>
        ))}
      <Exports address={routesAddress(question, permission, resource)} />
      {answer.verdict !== "allowed" && !question.actingFor && !question.revision && (
        <p className="note">
          <Link to={chainsPage({ who: question.who, permission, on: resource, at: question.at })}>
            How could they come to it by their own rights?
          </Link>
        </p>
      )}
    </section>
  );
}

function Thread({ route }: { route: Schemas["RouteView"] }) {
  return (
    <div className={route.obstacles.length > 0 ? "thread dotted" : "thread"}>
      <ol>
        {route.steps.map((step, i) => (
          <li key={i} data-kind={step.kind}>
            <strong>{step.name}</strong>
            <small>{step.remark}</small>
          </li>
        ))}
      </ol>
      {route.otherPaths > 0 && (
        <p className="note">and {count(route.otherPaths, "other way")} to the same group</p>
      )}
      {route.delegation && <p className="note">through the delegation {route.delegation}</p>}
      {route.obstacles.map((obstacle) => (
        <p key={obstacle} className="obstacle">
          {obstacle}
        </p>
      ))}
    </div>
  );
}
