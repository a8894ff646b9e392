import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { PlaceField } from "@/entities/place/PlaceField";
import { pageOfStep } from "@/entities/thing/pages";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { AnswerExports } from "./AnswerExports";
import { escalationPage, routesAddress, type Question, type Region } from "./model";
import { useRoutes } from "./queries";
import { Remedies } from "./Remedies";
import styles from "./RoutesPanel.module.css";

interface Props {
  question: Question;
  permission: string;
  resource: string;
  /** The region that the routes are opened from: its other places can be chosen. */
  region?: Pick<Region, "shape" | "size">;
  onPlace?: (resource: string) => void;
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
export function RoutesPanel({ question, permission, resource, region, onPlace }: Props) {
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
        {answer.permission.name} · on{" "}
        {onPlace ? (
          <PlaceField
            label="Place of the routes"
            look="link"
            value={answer.resource.name}
            search="Another place"
            onChoose={onPlace}
          />
        ) : (
          answer.resource.name
        )}{" "}
        · {VERDICTS[answer.verdict] ?? answer.verdict}
        {by}
        {answer.actingFor && `, acting for ${answer.actingFor.name}`}
      </h2>
      {region && region.size > 1 && (
        <p className="note">
          One of {count(region.size, "place")} in this region. Choose its name for another.
        </p>
      )}
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
        !question.asActive &&
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
          <Link
            to={escalationPage({ who: question.who, permission, on: resource, at: question.at })}
          >
            How could they grant it to themselves?
          </Link>
        </p>
      )}
    </section>
  );
}

/** A step's name; where the thing has a page, a link to it. */
function StepName({ step }: { step: Schemas["RouteView"]["steps"][number] }) {
  const page = pageOfStep(step);
  return page ? <Link to={page}>{step.name}</Link> : <>{step.name}</>;
}

function Thread({ route }: { route: Schemas["RouteView"] }) {
  const dotted = route.obstacles.length > 0;
  return (
    <div className={`${styles["thread"] ?? ""} ${dotted ? (styles["dotted"] ?? "") : ""}`}>
      <ol>
        {route.steps.map((step, i) => (
          <li key={i} data-kind={step.kind}>
            <strong>
              <StepName step={step} />
            </strong>
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
