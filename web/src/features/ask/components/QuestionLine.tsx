import { useState } from "react";
import { Dropdown } from "antd";
import { useAccounts } from "@/entities/account/queries";
import { EVERYBODY, type Answer, type Question } from "@/entities/access/model";
import { PersonField } from "@/entities/subject/PersonField";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { ActivationPicker, activatedInWords } from "./ActivationPicker";
import { FactorField, WhenField } from "./SessionFields";

interface Props {
  question: Question;
  answer: Answer | undefined;
  onChange: (changes: Record<string, string>) => void;
  /** Whether the question is about one person, who can't be changed here. */
  fixed?: boolean;
}

const BRIDGES = "+bridges";

/** The question what somebody can do, as one sentence. */
export function QuestionLine({ question, answer, onChange, fixed }: Props) {
  const about = answer?.principal.key === question.who ? answer : undefined;
  const activatable = about?.switchable ?? [];
  const on = question.on ?? [];
  const [added, setAdded] = useState<string[]>([]);
  const acting = question.actingFor !== "" || added.includes("acting");
  const activated = on.length > 0 || added.includes("activated");
  return (
    <Sentence>
      What can{" "}
      {fixed ? (
        (about?.principal.name ?? "they")
      ) : (
        <PersonField
          label="Who"
          value={about?.principal.name ?? question.who}
          current={question.who}
          onChoose={(who) => {
            const actingFor = who === question.actingFor ? "" : question.actingFor;
            onChange({ who, area: "", with: "", for: actingFor });
          }}
        />
      )}{" "}
      do in <WhereField question={question} answer={answer} onChange={onChange} />{" "}
      <Keep>
        <WhenField at={question.at} onChoose={(at) => onChange({ at })} />,
      </Keep>{" "}
      signed in{" "}
      <Keep>
        <FactorField
          factor={question.factor}
          note={
            answer && !answer.secondFactorCounts ? "not enrolled, so it has no effect" : undefined
          }
          onChoose={(factor) => onChange({ factor: factor ? "1" : "" })}
        />
        {acting && ","}
        {!acting && !activated && "?"}
      </Keep>
      {acting && (
        <>
          {" "}
          acting as{" "}
          <Keep>
            <ActingField question={question} answer={answer} onChange={onChange} />
            {!activated && "?"}
          </Keep>
        </>
      )}
      {activated && (
        <Keep>
          , with{" "}
          <InlinePicker
            label="Activated"
            value={activatedInWords(on.length, activatable)}
            picker={() => (
              <ActivationPicker
                on={on}
                activatable={activatable}
                onChange={(keys) => onChange({ with: keys.join(","), routes: "" })}
              />
            )}
          />
          ?
        </Keep>
      )}{" "}
      <ConditionMenu
        conditions={[
          ...(acting ? [] : [{ key: "acting", label: "Acting for somebody" }]),
          ...(activated || activatable.length === 0
            ? []
            : [{ key: "activated", label: "With just-in-time access activated" }]),
        ]}
        onAdd={(key) => setAdded([...added, key])}
      />
    </Sentence>
  );
}

interface ConditionProps {
  conditions: { key: string; label: string }[];
  onAdd: (key: string) => void;
}

/** Adds a part to the question that is at its default, and so left out. */
function ConditionMenu({ conditions, onAdd }: ConditionProps) {
  if (conditions.length === 0) return null;
  return (
    <Dropdown trigger={["click"]} menu={{ items: conditions, onClick: ({ key }) => onAdd(key) }}>
      <LinkButton>Add a condition</LinkButton>
    </Dropdown>
  );
}

function WhereField({ question, answer, onChange }: Omit<Props, "fixed">) {
  const accounts = useAccounts();
  const all = accounts.data?.accounts ?? [];
  const account = all.find((it) => it.key === question.in)?.name ?? answer?.in?.name ?? question.in;
  const value = question.in
    ? account + (question.doors ? " and across its bridges" : "")
    : "every account";
  return (
    <InlinePicker
      label="Where"
      value={value}
      picker={(close) => (
        <Combobox
          label="Where"
          value={question.in + (question.doors ? BRIDGES : "")}
          options={[
            { value: "", label: "every account" },
            ...all.flatMap((it) => {
              const here = { value: it.key, label: it.name, depth: it.depth };
              const across = {
                ...here,
                value: it.key + BRIDGES,
                label: `${it.name} and across its bridges`,
              };
              return it.key === question.in ? [here, across] : [here];
            }),
          ]}
          onChoose={(chosen) => {
            const doors = chosen.endsWith(BRIDGES);
            const key = doors ? chosen.slice(0, -BRIDGES.length) : chosen;
            onChange({ in: key, doors: doors ? "1" : "", area: "" });
            close();
          }}
        />
      )}
    />
  );
}

const THEMSELVES = "themselves";

function ActingField({ question, answer, onChange }: Props) {
  const { actingFor } = question;
  const value = !actingFor
    ? "themselves"
    : actingFor === EVERYBODY
      ? "themselves and everyone they can act for"
      : answer?.actingFor?.key === actingFor
        ? answer.actingFor.name
        : actingFor;
  return (
    <PersonField
      label="Acting as"
      value={value}
      current={actingFor || THEMSELVES}
      first={[
        { value: THEMSELVES, label: "themselves" },
        { value: EVERYBODY, label: "themselves and everyone they can act for" },
      ]}
      not={question.who}
      onChoose={(whom) => onChange({ for: whom === THEMSELVES ? "" : whom, area: "" })}
    />
  );
}
