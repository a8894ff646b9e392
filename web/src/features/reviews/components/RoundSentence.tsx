import { Button, Checkbox, Space } from "antd";
import { useAccountNames } from "@/entities/account/queries";
import { PlaceField } from "@/entities/place/PlaceField";
import { useThingName } from "@/entities/thing/ThingName";
import { listed, dayOf } from "@/shared/lib/words";
import { Combobox } from "@/shared/ui/Combobox";
import { DateField } from "@/shared/ui/DateField";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { CONTENTS, contentsInWords, RISK_WORDS, type Risk } from "../model";
import type { RoundOrder } from "../queries";
import { StageField } from "./StageField";

interface Props {
  order: RoundOrder;
  /** Keys of the accounts in which the viewer may run reviews. */
  accounts: string[];
  onChange: (changes: Partial<RoundOrder>) => void;
}

const MIDNIGHT = "T00:00:00Z";

/** A round as one sentence whose bold words are fields. */
export function RoundSentence({ order, accounts, onChange }: Props) {
  const nameOf = useAccountNames();
  const place = useThingName("places", order.place ?? "");
  return (
    <Sentence>
      Review{" "}
      <InlinePicker
        label="What"
        value={RISK_WORDS[order.risk]}
        picker={(close) => (
          <Combobox
            label="What"
            value={order.risk}
            options={Object.entries(RISK_WORDS).map(([value, label]) => ({ value, label }))}
            onChoose={(risk) => {
              onChange({ risk: risk as Risk });
              close();
            }}
          />
        )}
      />{" "}
      of{" "}
      <InlinePicker
        label="Whose"
        value={contentsInWords(order.contents)}
        picker={() => (
          <Checkbox.Group
            value={order.contents}
            onChange={(contents) => contents.length > 0 && onChange({ contents })}
          >
            <Space orientation="vertical">
              {Object.entries(CONTENTS).map(([key, name]) => (
                <Checkbox key={key} value={key}>
                  {name}
                </Checkbox>
              ))}
            </Space>
          </Checkbox.Group>
        )}
      />{" "}
      in{" "}
      <InlinePicker
        label="Where"
        value={order.accounts.length === 0 ? "all accounts" : listed(order.accounts.map(nameOf))}
        picker={() => (
          <Checkbox.Group
            value={order.accounts}
            onChange={(chosen) => onChange({ accounts: chosen })}
          >
            <Space orientation="vertical">
              {accounts.map((key) => (
                <Checkbox key={key} value={key}>
                  {nameOf(key)}
                </Checkbox>
              ))}
              <span className="note">None chosen: all accounts. Each with all below it.</span>
            </Space>
          </Checkbox.Group>
        )}
      />
      {order.place !== undefined && (
        <>
          {" "}
          on{" "}
          <Keep>
            <PlaceField label="Place" value={place} onChoose={(key) => onChange({ place: key })} />
          </Keep>
        </>
      )}
      , decided by{" "}
      {order.stages.map((stage, i) => (
        <span key={i}>
          {i > 0 && ", then by "}
          <StageField
            label={i === 0 ? "Decided by" : `Then by (${i + 1})`}
            stage={stage.order}
            onChange={(chosen) =>
              onChange({
                stages: order.stages.map((it, at) => (at === i ? { order: chosen } : it)),
              })
            }
            onRemove={
              i > 0
                ? () => onChange({ stages: order.stages.filter((_, at) => at !== i) })
                : undefined
            }
          />
        </span>
      ))}
      , from{" "}
      <Keep>
        <DayWord label="From" instant={order.begins} onChoose={(begins) => onChange({ begins })} />
      </Keep>{" "}
      to{" "}
      <Keep>
        <DayWord label="To" instant={order.ends} onChoose={(ends) => onChange({ ends })} />.
      </Keep>{" "}
      {order.stages.length < 3 && (
        <LinkButton
          onClick={() => onChange({ stages: [...order.stages, { order: ["account-owner"] }] })}
        >
          Add a step
        </LinkButton>
      )}{" "}
      {order.place === undefined && (
        <small>
          <PlaceField
            label="Add a place"
            value="Add a place"
            look="link"
            onChoose={(key) => onChange({ place: key })}
          />
        </small>
      )}
    </Sentence>
  );
}

interface DayProps {
  label: string;
  instant: string;
  onChoose: (instant: string) => void;
}

function DayWord({ label, instant, onChoose }: DayProps) {
  return (
    <InlinePicker
      label={label}
      value={dayOf(instant)}
      picker={(close) => (
        <Space>
          <DateField
            label={label}
            value={instant.slice(0, 10)}
            onChange={(day) => day && onChoose(day + MIDNIGHT)}
          />
          <Button onClick={close}>Done</Button>
        </Space>
      )}
    />
  );
}
