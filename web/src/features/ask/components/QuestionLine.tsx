import { useState } from "react";
import { useAccounts } from "../../../app/account";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { usePeopleChoices } from "../../people/queries";
import { FactorField, WhenField } from "./SessionFields";
import { EVERYBODY, type Answer, type Question } from "../model";

interface Props {
  question: Question;
  answer: Answer | undefined;
  onChange: (changes: Record<string, string>) => void;
}

/** The question as one sentence whose bold words are fields. */
export function QuestionLine({ question, answer, onChange }: Props) {
  const accounts = useAccounts();
  const all = accounts.data?.accounts ?? [];
  const place = all.find((it) => it.key === question.in)?.name ?? answer?.in?.name ?? question.in;
  const names = answer?.principal.key === question.who ? answer.principal.name : question.who;
  const actingFor = !question.actingFor
    ? "themselves"
    : question.actingFor === EVERYBODY
      ? "themselves and all they may act for"
      : answer?.actingFor?.key === question.actingFor
        ? answer.actingFor.name
        : question.actingFor;
  const switchable = answer?.principal.key === question.who ? answer.switchable : [];
  const on = question.on ?? [];
  return (
    <h1 className="sentence">
      What can{" "}
      <Field
        label="Who"
        value={names}
        picker={(close) => (
          <PersonPicker
            label="Somebody"
            value={question.who}
            onChoose={(who) => {
              onChange({
                who,
                area: "",
                with: "",
                for: who === question.actingFor ? "" : question.actingFor,
              });
              close();
            }}
          />
        )}
      />{" "}
      do in{" "}
      <Field
        label="Where"
        value={
          question.in ? place + (question.doors ? " and through its doors" : "") : "every account"
        }
        picker={(close) => (
          <Choose
            label="Where"
            value={question.in + (question.doors ? "+doors" : "")}
            options={[
              ...all.flatMap((it) => [
                { value: it.key, label: it.name, depth: it.depth },
                ...(it.key === question.in
                  ? [
                      {
                        value: it.key + "+doors",
                        label: `${it.name} and through its doors`,
                        depth: it.depth,
                      },
                    ]
                  : []),
              ]),
            ]}
            onChoose={(value) => {
              const doors = value.endsWith("+doors");
              const key = doors ? value.slice(0, -"+doors".length) : value;
              onChange({ in: key, doors: doors ? "1" : "", area: "" });
              close();
            }}
          />
        )}
      />{" "}
      on{" "}
      <span className="keep">
        <WhenField at={question.at} onChoose={(at) => onChange({ at })} />,
      </span>{" "}
      signed in{" "}
      <span className="keep">
        <FactorField
          factor={question.factor}
          note={
            answer && !answer.secondFactorCounts
              ? "not enrolled, so it counts for nothing"
              : undefined
          }
          onChoose={(factor) => onChange({ factor: factor ? "1" : "" })}
        />
        ,
      </span>{" "}
      acting as{" "}
      <span className="keep">
        <Field
          label="Acting as"
          value={actingFor}
          picker={(close) => (
            <PersonPicker
              label="Acting as"
              value={question.actingFor}
              themselves
              not={question.who}
              onChoose={(whom) => {
                onChange({ for: whom, area: "" });
                close();
              }}
            />
          )}
        />
        {(switchable.length > 0 || on.length > 0) && (
          <>
            , with{" "}
            <Field
              label="Switched on"
              value={switchedInWords(on.length, switchable)}
              picker={() => (
                <SwitchPicker
                  on={on}
                  switchable={switchable}
                  onChange={(keys) => onChange({ with: keys.join(","), routes: "" })}
                />
              )}
            />
          </>
        )}
        ?
      </span>
    </h1>
  );
}

type Switchable = Answer["switchable"];

function switchedInWords(chosen: number, switchable: Switchable): string {
  const on = switchable.filter((it) => it.on).length;
  if (chosen > 0) return `${chosen} switched on`;
  return on > 0 ? `what they have switched on (${on})` : "nothing switched on";
}

interface SwitchProps {
  on: string[];
  switchable: Switchable;
  onChange: (keys: string[]) => void;
}

/** Takes just-in-time assignments to be switched on, one or several. */
function SwitchPicker({ on, switchable, onChange }: SwitchProps) {
  return (
    <fieldset className="switches">
      <legend>as if they had switched on</legend>
      {switchable.map((it) => (
        <label key={it.key}>
          <input
            type="checkbox"
            checked={it.on || on.includes(it.key)}
            disabled={it.on}
            onChange={(event) =>
              onChange(
                event.target.checked ? [...on, it.key] : on.filter((each) => each !== it.key),
              )
            }
          />
          <span>
            {it.said}
            {it.on && <small> is switched on now</small>}
          </span>
        </label>
      ))}
    </fieldset>
  );
}

interface PersonProps {
  label: string;
  value: string;
  themselves?: boolean;
  not?: string;
  onChoose: (key: string) => void;
}

export function PersonPicker({ label, value, themselves, not, onChoose }: PersonProps) {
  const [text, setText] = useState("");
  const people = usePeopleChoices(text);
  const options = (people.data ?? [])
    .filter((it) => it.key !== not)
    .map((it) => ({
      value: it.key,
      label: it.name,
      note: [it.title, it.accountName].filter(Boolean).join(", "),
    }));
  return (
    <Choose
      label={label}
      value={value}
      waiting={people.isFetching}
      onType={setText}
      options={
        themselves && text === ""
          ? [
              { value: "", label: "themselves" },
              {
                value: EVERYBODY,
                label: "themselves and all they may act for",
                note: "everything within their reach",
              },
              ...options,
            ]
          : options
      }
      onChoose={onChoose}
    />
  );
}
