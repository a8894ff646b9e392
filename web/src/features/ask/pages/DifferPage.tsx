import { useState } from "react";
import { useSearchParams } from "react-router";
import { useAccounts } from "../../../app/account";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { Mandala } from "../../../components/Mandala";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { AskParts } from "../components/AskParts";
import { Exports } from "../components/Exports";
import { PersonPicker, WhenPicker } from "../components/QuestionLine";
import { RightLines } from "../components/RightLines";
import { differAddress, momentInWords, type DifferAsked } from "../model";
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
  const [params, setParams] = useSearchParams();
  const accounts = useAccounts();
  const asked: DifferAsked = { one: self, other: "" };
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  const answer = useDifference(asked, asked.other !== "");
  function set(changes: Record<string, string>) {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(changes)) {
      if (value) next.set(name, value);
      else next.delete(name);
    }
    setParams(next);
  }
  const place = accounts.data?.accounts.find((it) => it.key === asked.in)?.name;
  return (
    <>
      <AskParts />
      <h1 className="sentence">
        How does{" "}
        <Side
          label="One"
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
          <Exports address={differAddress(asked)} />
          <DifferenceView answer={answer.data} asked={asked} />
        </div>
      )}
    </>
  );
}

interface SideProps {
  label: string;
  name: string;
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
          <PersonPicker
            label={label}
            value=""
            onChoose={(key) => {
              props.onWho(key);
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
  return (
    <>
      <div className="before-after large">
        {[one, other].map((side, at) => (
          <figure key={at}>
            <Mandala figure={side.figure} size={300} label={`Access of ${side.name}`} />
            <figcaption>
              <strong>{side.name}</strong> {side.title && <small>{side.title}</small>} ·{" "}
              {side.refusal ? "not active then" : count(side.figure.rights, "right")}
            </figcaption>
          </figure>
        ))}
      </div>
      <p className="impact-summary" role="status">
        {answer.gained + answer.lost === 0
          ? "They do not differ."
          : `${other.name} has ${count(answer.gained, "right")} more, and lacks ${count(answer.lost, "right")} that ${one.name} has.`}
      </p>
      <RightLines
        lines={answer.lines}
        words={{ gained: "more on", lost: "not on" }}
        question={(it) => ({
          who: (it.gained > 0 ? other : one).key,
          in: "",
          doors: true,
          at: (it.gained > 0 ? asked.otherAt : asked.at) ?? "",
          factor: true,
          actingFor: "",
          ...sideOf(asked, it.gained > 0),
        })}
      />
    </>
  );
}

function sideOf(asked: DifferAsked, other: boolean): { revision?: string; draft?: string } {
  const revision = other ? asked.otherRevision : asked.revision;
  const draft = other ? asked.otherDraft : asked.draft;
  return { ...(revision && { revision }), ...(draft && { draft }) };
}
