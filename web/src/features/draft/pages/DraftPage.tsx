import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { usePeopleChoices } from "../../people/queries";
import type { Who } from "../../session";
import { ApplyPanel } from "../components/ApplyPanel";
import { Changes } from "../components/Changes";
import { Clashes } from "../components/Clashes";
import { Discussion } from "../components/Discussion";
import { ImpactPanel } from "../components/ImpactPanel";
import { useDraft, useHandle } from "../queries";

/** A draft opened: its changes, its faults, what it does, its discussion, and the way to apply. */
export function DraftPage({ who }: { who: Who }) {
  const { id = "" } = useParams();
  const draft = useDraft(id);
  const handle = useHandle(id);
  const navigate = useNavigate();
  if (draft.isPending) return <Waiting what="the draft" />;
  if (draft.isError) {
    return <ProblemNote problem={draft.error} onRetry={() => void draft.refetch()} />;
  }
  const it = draft.data;
  const alive = it.state === "open" || it.state === "aside";
  const readOnly = !it.mine || !alive;
  return (
    <>
      <header className="page-head">
        <h1>
          {readOnly ? (
            (it.name ?? "Draft")
          ) : (
            <NameField
              key={it.name ?? ""}
              name={it.name ?? ""}
              onName={(name) => handle.mutate({ name })}
            />
          )}
        </h1>
        <p className="note">
          {it.mine ? "yours" : `by ${it.owner.name}`} · {it.state} ·{" "}
          {count(it.changes.length, "change")} over revision {it.revision}
          {it.takesBack !== undefined && ` · takes back revision ${it.takesBack}`}
        </p>
        {it.mine && alive && (
          <p className="acts">
            <button
              type="button"
              className="link"
              onClick={() => handle.mutate({ state: it.state === "open" ? "aside" : "open" })}
            >
              {it.state === "open" ? "set aside" : "open it again"}
            </button>
            <Field
              label="Hand over"
              className="link"
              value="hand over"
              picker={(close) => (
                <HandOver
                  onChoose={(owner) => {
                    handle.mutate({ owner });
                    close();
                  }}
                />
              )}
            />
            <button
              type="button"
              className="link"
              onClick={() =>
                handle.mutate({ state: "discarded" }, { onSuccess: () => void navigate("/drafts") })
              }
            >
              discard
            </button>
          </p>
        )}
        {handle.isError && <ProblemNote problem={handle.error} />}
      </header>
      <div className="draft">
        <div>
          {it.clashes.length > 0 && it.mine && <Clashes draft={it} />}
          <Changes draft={it} readOnly={readOnly} />
          <ApplyPanel draft={it} who={who} />
          <Discussion draft={it} />
        </div>
        <aside>
          <h2>What it does</h2>
          {it.changes.length > 0 ? (
            <ImpactPanel draft={it} />
          ) : (
            <p className="note">Nothing, as long as nothing is in it.</p>
          )}
        </aside>
      </div>
    </>
  );
}

function NameField({ name, onName }: { name: string; onName: (name: string) => void }) {
  const [typed, setTyped] = useState(name);
  return (
    <input
      className="field-input name"
      aria-label="Name of the draft"
      placeholder="Draft without a name"
      value={typed}
      maxLength={200}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => typed !== name && onName(typed)}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
      }}
    />
  );
}

function HandOver({ onChoose }: { onChoose: (key: string) => void }) {
  const [text, setText] = useState("");
  const people = usePeopleChoices(text);
  return (
    <Choose
      label="Hand over to"
      onType={setText}
      waiting={people.isFetching}
      options={(people.data ?? []).map((it) => ({
        value: it.key,
        label: it.name,
        note: it.title,
      }))}
      onChoose={onChoose}
    />
  );
}
