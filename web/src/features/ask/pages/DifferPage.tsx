import { useState } from "react";
import { useAccounts } from "../../../app/account";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { Mandala } from "../../../components/Mandala";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { useAddress } from "../../../lib/useAddress";
import { AskParts } from "../components/AskParts";
import { Exports } from "../components/Exports";
import { PersonPicker } from "../components/QuestionLine";
import { WhenPicker } from "../components/WhenPicker";
import { AreaTable } from "../components/AreaTable";
import { ThingPicker } from "../../../components/ThingPicker";
import { RightLines } from "../components/RightLines";
import { differAddress, momentInWords, personIn, type DifferAsked, type Question } from "../model";
import { useDifference, type DifferenceAnswer } from "../queries";

const NAMES = [
  "one",
  "other",
  "in",
  "at",
  "otherAt",
  "revision",
  "otherRevision",
  "draft",
  "otherDraft",
] as const;

/** How two accesses differ: two people, or one person at two times, revisions, or with a draft. */
export function DifferPage({ self }: { self: string }) {
  const [params, set] = useAddress();
  const accounts = useAccounts();
  const asked: DifferAsked = { one: self, other: "" };
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  const answer = useDifference(asked, asked.other !== "");
  const place = accounts.data?.accounts.find((it) => it.key === asked.in)?.name;
  return (
    <>
      <AskParts />
      <h1 className="sentence">
        How does{" "}
        <Side
          label="One"
          rival={personIn(asked.other)}
          name={answer.data?.one.name ?? asked.one}
          at={asked.at}
          revision={asked.revision}
          draft={asked.draft}
          onWho={(one) => set({ one })}
          onWhen={(at) => set({ at, revision: "", draft: "" })}
          onRevision={(revision) => set({ revision, draft: "" })}
          onDraft={() => set({ draft: "open", revision: "" })}
        />{" "}
        differ from{" "}
        <Side
          label="The other"
          rival={personIn(asked.one)}
          name={answer.data?.other.name ?? (asked.other || "whom")}
          at={asked.otherAt}
          revision={asked.otherRevision}
          draft={asked.otherDraft}
          onWho={(other) => set({ other })}
          onWhen={(otherAt) => set({ otherAt, otherRevision: "", otherDraft: "" })}
          onRevision={(otherRevision) => set({ otherRevision, otherDraft: "" })}
          onDraft={() => set({ otherDraft: "open", otherRevision: "" })}
        />{" "}
        in{" "}
        <span className="keep">
          <Field
            label="Where"
            value={place ?? "every account"}
            picker={(close) => (
              <Choose
                label="Where"
                options={[
                  { value: "", label: "every account" },
                  ...(accounts.data?.accounts ?? []).map((it) => ({
                    value: it.key,
                    label: it.name,
                    depth: it.depth,
                  })),
                ]}
                onChoose={(key) => {
                  set({ in: key });
                  close();
                }}
              />
            )}
          />
          ?
        </span>
      </h1>
      {asked.other === "" ? (
        <div className="empty">
          <p>Choose with whom to compare; the same person at another time will do.</p>
        </div>
      ) : answer.isError ? (
        <ProblemNote problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Waiting what="the difference" />
      ) : (
        <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
          <DifferenceView answer={answer.data} asked={asked} />
        </div>
      )}
    </>
  );
}

const SIDES = [
  { value: "person", label: "somebody" },
  { value: "role", label: "what a role gives" },
  { value: "pattern", label: "somebody new of a pattern" },
];

interface PickerProps {
  label: string;
  /** The person on the other side, where it is one. */
  rival: string | undefined;
  onChoose: (side: string) => void;
}

/** Chooses a side of the comparison: whom or what. */
function SidePicker({ label, rival, onChoose }: PickerProps) {
  const [kind, setKind] = useState("");
  if (kind === "person") return <PersonPicker label={label} value="" onChoose={onChoose} />;
  if (kind === "role" || kind === "pattern") {
    return (
      <ThingPicker
        key={kind}
        kind={`${kind}s`}
        label={kind === "role" ? "Role" : "Pattern"}
        prefix={`${kind}:`}
        onChoose={onChoose}
      />
    );
  }
  const colleagues = { value: "colleagues", label: "what their colleagues have in common" };
  return (
    <Choose
      label={label}
      options={rival ? [...SIDES, colleagues] : SIDES}
      onChoose={(value) => {
        if (value === "colleagues") onChoose(`colleagues:${rival}`);
        else setKind(value);
      }}
    />
  );
}

interface SideProps {
  label: string;
  name: string;
  rival: string | undefined;
  at: string | undefined;
  revision: string | undefined;
  draft: string | undefined;
  onWho: (key: string) => void;
  onWhen: (at: string) => void;
  onRevision: (revision: string) => void;
  onDraft: () => void;
}

function Side(props: SideProps) {
  const { label, name, at, revision, draft } = props;
  const [typed, setTyped] = useState(revision ?? "");
  return (
    <>
      <Field
        label={label}
        value={name}
        picker={(close) => (
          <SidePicker
            label={label}
            rival={props.rival}
            onChoose={(side) => {
              props.onWho(side);
              close();
            }}
          />
        )}
      />{" "}
      on{" "}
      <Field
        label={`${label}: when`}
        value={
          momentInWords(at) +
          (revision ? `, revision ${revision}` : "") +
          (draft ? ", with my draft" : "")
        }
        picker={(close) => (
          <div>
            <WhenPicker
              at={at ?? ""}
              onChoose={(it) => {
                props.onWhen(it);
                close();
              }}
            />
            <form
              className="label-form"
              onSubmit={(event) => {
                event.preventDefault();
                props.onRevision(typed.trim());
                close();
              }}
            >
              <label>
                or as the model stood after revision
                <input
                  className="plain-input"
                  type="number"
                  min={1}
                  value={typed}
                  onChange={(event) => setTyped(event.target.value)}
                />
              </label>
              <button type="submit" className="link">
                ask so
              </button>
              <button
                type="button"
                className="link"
                onClick={() => {
                  props.onDraft();
                  close();
                }}
              >
                with my open draft
              </button>
            </form>
          </div>
        )}
      />
    </>
  );
}

function DifferenceView({ answer, asked }: { answer: DifferenceAnswer; asked: DifferAsked }) {
  const { one, other } = answer;
  const [area, setArea] = useState<string>();
  return (
    <>
      <div className="differ">
        {[one, other].map((side, at) => (
          <figure key={at}>
            <Mandala
              figure={side.figure}
              size={300}
              centre={firstWord(side.name)}
              labels={false}
              chosen={area}
              edges={{ raised: at === 0 ? answer.less : answer.more }}
              label={`Access of ${side.name}`}
            />
            <figcaption>
              <strong>{side.name}</strong>
              {side.title && <small>{side.title}</small>}
              {side.refusal && (
                <small>
                  {side.refusal === "absent" ? "not in the directory then" : "not active then"}
                </small>
              )}
            </figcaption>
          </figure>
        ))}
        <div>
          <p className="impact-summary" role="status">
            {answer.gained + answer.lost === 0
              ? "They do not differ."
              : `Only ${one.name}: ${count(answer.lost, "right")}. Only ${other.name}: ${count(answer.gained, "right")}.`}
          </p>
          {answer.areas.length > 0 && (
            <>
              <AreaTable
                areas={answer.areas}
                words={{
                  gained: `only ${firstWord(other.name)}`,
                  lost: `only ${firstWord(one.name)}`,
                }}
                onPoint={setArea}
              />
              <p className="note">An outlined petal is what only that side reaches.</p>
            </>
          )}
        </div>
      </div>
      <RightLines
        lines={answer.lines}
        words={{ gained: `only ${other.name} on`, lost: `only ${one.name} on` }}
        question={(it) => asks(it.gained > 0, answer, asked)}
      />
      <Exports address={differAddress(asked)} />
    </>
  );
}

function firstWord(name: string): string {
  return name.split(" ")[0] ?? name;
}

/** The question that tells why: about whoever has it, or else whoever has it not; none of nobody. */
function asks(
  gained: boolean,
  { one, other }: DifferenceAnswer,
  asked: DifferAsked,
): Question | undefined {
  const holder = gained ? other : one;
  const person = holder.kind === "person" ? holder : gained ? one : other;
  if (person.kind !== "person") return undefined;
  const second = person === other;
  return {
    who: person.key,
    in: "",
    doors: true,
    at: (second ? asked.otherAt : asked.at) ?? "",
    factor: true,
    actingFor: "",
    ...sideOf(asked, second),
  };
}

function sideOf(asked: DifferAsked, other: boolean): { revision?: string; draft?: string } {
  const revision = other ? asked.otherRevision : asked.revision;
  const draft = other ? asked.otherDraft : asked.draft;
  return { ...(revision && { revision }), ...(draft && { draft }) };
}
