import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { AnswerExports } from "./AnswerExports";
import { chainsPage, routesAddress, type Question } from "./model";
import { useRoutes } from "./queries";
import { Remedies } from "./Remedies";
import styles from "./RoutesPanel.module.css";

interface Props {
  question: Question;
  permission: string;
  resource: string;
}

const VERDICTS: Record<string, string> = {
  allowed: "allowed",
  denied: "denied",
  blocked: "blocked, a gate is missing",
  none: "not granted",
  inactive: "not active",
  absent: "not in the directory at that time",
  "no-delegation": "no delegation",
};

/** Why somebody can or can't: routes from left to right, those not in effect now dotted below. */
export function RoutesPanel({ question, permission, resource }: Props) {
  const routes = useRoutes(question, permission, resource);
  const [remedies, setRemedies] = useState(false);
  if (routes.isPending) return <Loading what="the routes" rows={3} />;
  if (routes.isError) {
    return <ProblemAlert problem={routes.error} onRetry={() => void routes.refetch()} />;
  }
  const answer = routes.data;
  const allowed = answer.verdict === "allowed";
  const by = answer.live.length > 0 ? ` by ${count(answer.live.length, "route")}` : "";
  return (
    <section className={styles["routes"]} aria-label="Routes">
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
          <h3>Not in effect now</h3>
          {answer.near.map((route, i) => (
            <Thread key={i} route={route} />
          ))}
          {answer.moreNear > 0 && <p className="note">and {answer.moreNear} more</p>}
        </>
      )}
      {answer.live.length + answer.near.length === 0 && (
        <p className="note">No assignment to them or to any group of theirs grants it here.</p>
      )}
      {!question.revision &&
        (remedies ? (
          <Remedies question={question} permission={permission} resource={resource} />
        ) : (
          <LinkButton onClick={() => setRemedies(true)}>
            {allowed ? "How to remove this access" : "How to grant this access"}
          </LinkButton>
        ))}
      <div>
        <AnswerExports address={routesAddress(question, permission, resource)} />
      </div>
      {!allowed && !question.actingFor && !question.revision && (
        <p className="note">
          <Link to={chainsPage({ who: question.who, permission, on: resource, at: question.at })}>
            How could they grant it to themselves?
          </Link>
        </p>
      )}
    </section>
  );
}

function Thread({ route }: { route: Schemas["RouteView"] }) {
  const dotted = route.obstacles.length > 0;
  return (
    <div className={`${styles["thread"] ?? ""} ${dotted ? (styles["dotted"] ?? "") : ""}`}>
      <ol>
        {route.steps.map((step, i) => (
          <li key={i} data-kind={step.kind}>
            <strong>{step.name}</strong>
            <small>{step.remark}</small>
          </li>
        ))}
      </ol>
      {route.otherPaths > 0 && (
        <p className="note">and {count(route.otherPaths, "other path")} to the same group</p>
      )}
      {route.delegation && <p className="note">through the delegation {route.delegation}</p>}
      {route.obstacles.map((obstacle) => (
        <p key={obstacle} className={styles["obstacle"]}>
          {obstacle}
        </p>
      ))}
    </div>
  );
}
