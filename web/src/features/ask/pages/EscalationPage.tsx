import { Link } from "react-router";
import { AnswerExports } from "@/entities/access/AnswerExports";
import { escalationAddress, escalationPage, type EscalationAsked } from "@/entities/access/model";
import {
  useEscalation,
  type EscalationAnswer,
  type EscalatorsAnswer,
} from "@/entities/access/queries";
import { PlaceField } from "@/entities/place/PlaceField";
import { usePlace } from "@/entities/place/queries";
import { PersonField } from "@/entities/subject/PersonField";
import { useThings } from "@/entities/thing/queries";
import { ThingField } from "@/entities/thing/ThingField";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { Term } from "@/shared/ui/Term";
import { EscalatorSearch } from "../components/EscalatorSearch";
import { EscalationPathList } from "../components/EscalationPathList";
import { QuestionTabs } from "../components/QuestionTabs";
import { WhenField } from "../components/SessionFields";

const NAMES = ["who", "permission", "on", "at", "changes"] as const;
const ANYONE = "*";

/** How somebody, or anyone, could get an access that they do not have. */
export function EscalationPage() {
  const [params, set] = useAddress();
  const asked: EscalationAsked = {};
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  const whole = !!(asked.permission && asked.on);
  const one = useEscalation(asked, whole && !!asked.who);
  const permissions = useThings(
    "permissions",
    { text: asked.permission ?? "" },
    whole && !asked.who,
  );
  const place = usePlace(whole && !asked.who ? (asked.on ?? "") : "");
  const names = {
    permission: permissions.data?.things.find((it) => it.key === asked.permission)?.name,
    place: place.data?.place.name,
  };
  return (
    <>
      <QuestionTabs />
      <Sentence>
        How could{" "}
        <PersonField
          label="Who"
          value={asked.who ? (one.data?.name ?? asked.who) : "anyone"}
          current={asked.who ?? ANYONE}
          first={[{ value: ANYONE, label: "anyone" }]}
          onChoose={(who) => set({ who: who === ANYONE ? "" : who })}
        />{" "}
        get{" "}
        <ThingField
          label="What"
          value={one.data?.what ?? names.permission ?? asked.permission ?? "a permission"}
          search="Permission"
          kind="permissions"
          onChoose={(permission) => set({ permission })}
        />{" "}
        on{" "}
        <PlaceField
          label="Where"
          value={one.data?.where ?? names.place ?? asked.on ?? "a resource"}
          search="Place"
          onChoose={(on) => set({ on })}
        />{" "}
        <Keep>
          <WhenField at={asked.at ?? ""} onChoose={(at) => set({ at })} />?
        </Keep>
      </Sentence>
      {!whole ? (
        <EmptyState>
          Choose a permission and a resource. The answer lists each <Term word="escalation path" />:
          what somebody could change, step by step, with the rights they have now.
        </EmptyState>
      ) : !asked.who ? (
        <EscalatorSearch asked={asked} begin="Search everyone">
          {(found, job) => <Everyone answer={found} asked={asked} job={job} />}
        </EscalatorSearch>
      ) : one.isError ? (
        <ProblemAlert problem={one.error} onRetry={() => void one.refetch()} />
      ) : one.data ? (
        <OnePerson answer={one.data} asked={asked} />
      ) : (
        <Loading what="escalation paths" />
      )}
    </>
  );
}

function stepsOf(answer: EscalationAnswer): number {
  return answer.paths[0]?.steps.filter((it) => it.kind === "change").length ?? 0;
}

function OnePerson({ answer, asked }: { answer: EscalationAnswer; asked: EscalationAsked }) {
  const n = answer.paths.length;
  return (
    <>
      <p className="summary" role="status">
        {answer.held
          ? "They have this access now."
          : n === 0
            ? `They can't get it with their own rights in up to ${count(answer.changes, "change")}.`
            : `${count(n, "shortest path")}, of ${count(stepsOf(answer), "change")} each.`}
        {answer.hidden && " Other paths use things you can't see."}
        {!answer.whole && " There are too many paths to search them all."}
      </p>
      {n > 0 && <AnswerExports address={escalationAddress(asked)} />}
      <EscalationPathList paths={answer.paths} />
    </>
  );
}

interface EveryoneProps {
  answer: EscalatorsAnswer;
  asked: EscalationAsked;
  job: string;
}

function Everyone({ answer, asked, job }: EveryoneProps) {
  return (
    <>
      <p className="summary" role="status">
        {answer.people.length === 0
          ? "No one you can see"
          : `${count(answer.people.length, "principal")} without this access`}
        {` could get it in up to ${count(answer.changes, "change")}.`}
        {answer.able !== undefined &&
          ` Searched ${answer.looked} of the ${answer.able} who can change anything or act for someone.`}
        {answer.able === undefined && !answer.whole && " Too many people to search them all."}
        {answer.hidden && " People you can't see could, too."}
      </p>
      {answer.people.length > 0 && <AnswerExports address={`/api/jobs/${job}/answer`} />}
      <ul className="plain-list">
        {answer.people.map((it) => (
          <li key={it.key}>
            <h2>
              <Link to={escalationPage({ ...asked, who: it.key })}>{it.name}</Link>{" "}
              <small>{it.account}</small>
            </h2>
            <EscalationPathList paths={[it.path]} />
          </li>
        ))}
      </ul>
    </>
  );
}
