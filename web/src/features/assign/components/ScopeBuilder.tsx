import { useState } from "react";
import { Field } from "../../../components/Field";
import { ThingPicker } from "../../../components/ThingPicker";
import { Choose } from "../../../components/Choose";
import { count } from "../../../lib/words";
import { PlacePicker } from "../../places/components/PlacePicker";
import { useScope } from "../../things/queries";
import { clauseInWords, type Clause } from "../model";

interface Props {
  label: string;
  scope: Clause[];
  onChange: (scope: Clause[]) => void;
}

/** Builds a scope clause by clause, with a live count of what it covers. */
export function ScopeBuilder({ label, scope, onChange }: Props) {
  const [names, setNames] = useState(new Map<string, string>());
  const covers = useScope(scope);
  const everything = covers.data?.everything ?? false;

  function put(at: number, term: string, value: unknown, name?: string) {
    if (name) setNames(new Map(names).set(`${term}:${String(value)}`, name));
    const next = scope.map((it) => ({ ...it }));
    const clause = at < next.length ? next[at] : {};
    if (clause) next[at] = { ...clause, [term]: value };
    onChange(next);
  }

  return (
    <div className="scope" role="group" aria-label={label}>
      {scope.map((clause, at) => (
        <p key={at} className="clause">
          {at > 0 && <span className="quiet">or </span>}
          <strong>{clauseInWords(clause, names)}</strong>{" "}
          <Field
            label={`Narrow clause ${at + 1}`}
            className="link"
            value="and …"
            picker={(close) => (
              <TermPicker
                onPick={(term, value, name) => {
                  put(at, term, value, name);
                  close();
                }}
              />
            )}
          />
          <button
            type="button"
            className="link"
            aria-label={`Take away clause ${at + 1}`}
            onClick={() => onChange(scope.filter((_, i) => i !== at))}
          >
            take away
          </button>
        </p>
      ))}
      <Field
        label={scope.length === 0 ? label : "Another clause"}
        className="link"
        value={scope.length === 0 ? "choose where" : "or also …"}
        picker={(close) => (
          <TermPicker
            onPick={(term, value, name) => {
              put(scope.length, term, value, name);
              close();
            }}
          />
        )}
      />
      <p className="note" role="status">
        {scope.length === 0
          ? "Nothing yet: an empty scope covers nothing."
          : covers.data
            ? `${everything ? "Everything there is: " : ""}${covers.data.relative ? "up to " : ""}${count(covers.data.count, "resource")}${covers.data.sealedOff > 0 ? `, ${covers.data.sealedOff} of them sealed off` : ""}${covers.data.first.length > 0 ? ": " + covers.data.first.map((it) => it.name).join(", ") : ""}${covers.data.count > covers.data.first.length ? " …" : ""}${covers.data.cut ? " (in accounts you can see)" : ""}`
            : covers.isError
              ? "This cannot be counted: " + covers.error.message
              : "Counting …"}
      </p>
    </div>
  );
}

const TERMS = [
  { value: "tree", label: "a place and all below it" },
  { value: "only", label: "one place alone" },
  { value: "account", label: "one account, without those below" },
  { value: "collection", label: "a collection" },
  { value: "type", label: "places of one type" },
  { value: "unit", label: "an organisational unit's places" },
  { value: "labels", label: "places with a label" },
  { value: "account=own", label: "their own account" },
  { value: "unit=own", label: "their own unit, and whom they reach" },
  { value: "owner=self", label: "their own records" },
  { value: "owner=team", label: "their team's records" },
  { value: "owner=none", label: "records that nobody owns" },
  { value: "everything", label: "everything" },
];

interface TermProps {
  onPick: (term: string, value: unknown, name?: string) => void;
}

function TermPicker({ onPick }: TermProps) {
  const [term, setTerm] = useState("");
  const [text, setText] = useState("");
  if (term === "") {
    return (
      <Choose
        label="Where"
        options={TERMS}
        onChoose={(value) => {
          const [name = "", fixed] = value.split("=");
          if (fixed) onPick(name, fixed);
          else if (name === "everything") onPick(name, true);
          else setTerm(name);
        }}
      />
    );
  }
  switch (term) {
    case "collection":
      return (
        <ThingPicker
          kind="collections"
          label="Collection"
          onChoose={(v, n) => onPick(term, v, n)}
        />
      );
    case "type":
      return (
        <ThingPicker kind="resourceTypes" label="Type" onChoose={(v, n) => onPick(term, v, n)} />
      );
    case "unit":
      return <ThingPicker kind="units" label="Unit" onChoose={(v, n) => onPick(term, v, n)} />;
    case "account":
      return (
        <ThingPicker kind="accounts" label="Account" onChoose={(v, n) => onPick(term, v, n)} />
      );
    case "labels":
      return (
        <form
          className="label-form"
          onSubmit={(event) => {
            event.preventDefault();
            const [name = "", value = ""] = text.split("=").map((it) => it.trim());
            if (name && value) onPick("labels", { [name]: value });
          }}
        >
          <label>
            label, as in floor=2
            <input
              autoFocus
              className="plain-input"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button type="submit" className="link">
            take it
          </button>
        </form>
      );
    default:
      return <PlacePicker label="Place" onChoose={(v, n) => onPick(term, v, n)} />;
  }
}
