import { Link } from "react-router";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { PlacePicker } from "../../places/components/PlacePicker";
import { useAddress } from "../../../lib/useAddress";
import { AskParts } from "../components/AskParts";
import { ChainList } from "../components/ChainList";
import { Exports } from "../components/Exports";
import { PersonPicker } from "../components/QuestionLine";
import { WhenField } from "../components/SessionFields";
import { chainsAddress, chainsPage, type ChainsAsked } from "../model";
import { useChains, useClimbers, type ChainsAnswer, type ClimbersAnswer } from "../queries";

const NAMES = ["who", "permission", "on", "at", "changes"] as const;

/** How could somebody, or anybody, come to an access that is not held now. */
export function ChainsPage() {
  const [params, set] = useAddress();
  const asked: ChainsAsked = {};
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  const whole = !!(asked.permission && asked.on);
  const one = useChains(asked, whole && !!asked.who);
  const everyone = useClimbers(asked, whole && !asked.who);
  const answer = asked.who ? one : everyone;
  return (
    <>
      <AskParts />
      <h1 className="sentence">
        How could{" "}
        <Field
          label="Who"
          value={one.data?.name ?? asked.who ?? "anybody"}
          picker={(close) => (
            <>
              <Choose
                label="Who"
                options={[{ value: "", label: "anybody" }]}
                onChoose={() => {
                  set({ who: "" });
                  close();
                }}
              />
              <PersonPicker
                label="Somebody"
                value={asked.who ?? ""}
                onChoose={(who) => {
                  set({ who });
                  close();
                }}
              />
            </>
          )}
        />{" "}
        come to{" "}
        <Field
          label="What"
          value={answer.data?.what ?? asked.permission ?? "do what"}
          picker={(close) => (
            <ThingPicker
              kind="permissions"
              label="Permission"
              onChoose={(permission) => {
                set({ permission });
                close();
              }}
            />
          )}
        />{" "}
        on{" "}
        <Field
          label="Where"
          value={answer.data?.where ?? asked.on ?? "which place"}
          picker={(close) => (
            <PlacePicker
              label="Place"
              onChoose={(on) => {
                set({ on });
                close();
              }}
            />
          )}
        />{" "}
        on{" "}
        <span className="keep">
          <WhenField at={asked.at ?? ""} onChoose={(at) => set({ at })} />?
        </span>
      </h1>
      {!whole ? (
        <div className="empty">
          <p>
            Choose what and where. The answer is what somebody could do, one change after the other
            and by their own rights over Mandala, to get there.
          </p>
        </div>
      ) : answer.isError ? (
        <ProblemNote problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : one.data ? (
        <OneView answer={one.data} asked={asked} />
      ) : everyone.data ? (
        <EveryoneView answer={everyone.data} asked={asked} />
      ) : (
        <Waiting what={asked.who ? "chains" : "everybody who can change anything"} />
      )}
    </>
  );
}

function OneView({ answer, asked }: { answer: ChainsAnswer; asked: ChainsAsked }) {
  const n = answer.chains.length;
  return (
    <>
      <p className="impact-summary" role="status">
        {answer.held
          ? "They can do it now; there is nothing to come to."
          : n === 0
            ? `Not by their own rights, with at most ${count(answer.changes, "change")}.`
            : `${count(n, "shortest chain")}, of ${count(lengthOf(answer), "change")} each.`}
        {answer.hidden && " Other chains lead through what you can't see."}
        {!answer.whole && " Not every chain was tried: there are too many."}
      </p>
      {n > 0 && <Exports address={chainsAddress(asked)} />}
      <ChainList chains={answer.chains} />
    </>
  );
}

function lengthOf(answer: ChainsAnswer): number {
  return answer.chains[0]?.links.filter((it) => it.kind === "change").length ?? 0;
}

function EveryoneView({ answer, asked }: { answer: ClimbersAnswer; asked: ChainsAsked }) {
  return (
    <>
      <p className="impact-summary" role="status">
        {answer.people.length === 0
          ? "Nobody whom you may see"
          : `${count(answer.people.length, "principal")} who cannot now`}
        {` could, with at most ${count(answer.changes, "change")}.`}
        {answer.able !== undefined &&
          ` Looked at ${answer.looked} of ${answer.able} who can change anything or act for somebody.`}
        {answer.able === undefined &&
          !answer.whole &&
          " Not everyone was looked at: there are too many."}
        {answer.hidden && " Others you can't see could, too."}
      </p>
      {answer.people.length > 0 && <Exports address={chainsAddress(asked)} />}
      <ul className="climbers">
        {answer.people.map((it) => (
          <li key={it.key}>
            <h2>
              <Link to={chainsPage({ ...asked, who: it.key })}>{it.name}</Link>{" "}
              <small>{it.account}</small>
            </h2>
            <ChainList chains={[it.chain]} />
          </li>
        ))}
      </ul>
    </>
  );
}
