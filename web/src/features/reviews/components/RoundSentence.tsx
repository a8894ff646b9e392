import { Button, Checkbox, Space } from "antd";
import { PlaceField } from "@/entities/place/PlaceField";
import { useThingName } from "@/entities/thing/ThingName";
import { dayOf } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { CONTENTS, contentsInWords } from "../model";
import type { RoundOrder } from "../queries";
import { AccountsWord, AddStage, RiskWord, StagesWords } from "./words";

interface Props {
  order: RoundOrder;
  /** Keys of the accounts in which the viewer may run reviews. */
  accounts: string[];
  onChange: (changes: Partial<RoundOrder>) => void;
}

const MIDNIGHT = "T00:00:00Z";

/** A round as one sentence whose bold words are fields. */
export function RoundSentence({ order, accounts, onChange }: Props) {
  const place = useThingName("places", order.place ?? "");
  return (
    <Sentence>
      Review <RiskWord risk={order.risk} onChoose={(risk) => onChange({ risk })} /> of{" "}
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
      <AccountsWord
        chosen={order.accounts}
        accounts={accounts}
        onChoose={(chosen) => onChange({ accounts: chosen })}
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
      , decided by <StagesWords stages={order.stages} onChange={(stages) => onChange({ stages })} />
      , from{" "}
      <Keep>
        <DayWord label="From" instant={order.begins} onChoose={(begins) => onChange({ begins })} />
      </Keep>{" "}
      to{" "}
      <Keep>
        <DayWord label="To" instant={order.ends} onChoose={(ends) => onChange({ ends })} />.
      </Keep>{" "}
      <AddStage stages={order.stages} onChange={(stages) => onChange({ stages })} />{" "}
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
