import { Checkbox, InputNumber, Space } from "antd";
import { count } from "@/shared/lib/words";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { CARRIED, effectOf, UNDECIDED, type RoundEffect } from "../model";
import type { RoundOrder } from "../queries";

interface Props {
  order: RoundOrder;
  onChange: (changes: Partial<RoundOrder>) => void;
}

/** When decisions take effect, and what becomes of what nobody decides. */
export function EffectSentence({ order, onChange }: Props) {
  const it = effectOf(order);
  const set = (changes: Partial<RoundEffect>) => onChange({ effect: { ...it, ...changes } });
  return (
    <Sentence>
      Decisions take effect{" "}
      <OneOf
        label="Take effect"
        words={CARRIED}
        value={it.carried}
        onChoose={(carried) => set({ carried })}
      />
      . Reviewers are reminded{" "}
      <DaysWord
        label="Reminder"
        value={it.remind}
        words={it.remind === 0 ? "never" : `${count(it.remind, "day")} before the end`}
        onChoose={(remind) => set({ remind })}
      />
      . What nobody decides{" "}
      <OneOf
        label="What nobody decides"
        words={UNDECIDED}
        value={it.undecided}
        onChoose={(undecided) => set({ undecided })}
      />{" "}
      <DaysWord
        label="Grace time"
        value={it.grace}
        words={it.grace === 0 ? "at the end" : `${count(it.grace, "day")} after the end`}
        onChoose={(grace) => set({ grace })}
      />
      <Keep>
        .{" "}
        <Checkbox
          checked={it.escalate}
          onChange={(event) => set({ escalate: event.target.checked })}
        >
          Managers of reviewers decide first
        </Checkbox>
      </Keep>
    </Sentence>
  );
}

interface OneOfProps<T extends string> {
  label: string;
  words: Record<T, string>;
  value: T;
  onChoose: (value: T) => void;
}

function OneOf<T extends string>({ label, words, value, onChoose }: OneOfProps<T>) {
  return (
    <InlinePicker
      label={label}
      value={words[value]}
      picker={(close) => (
        <Combobox
          label={label}
          value={value}
          options={Object.entries<string>(words).map(([key, name]) => ({
            value: key,
            label: name,
          }))}
          onChoose={(chosen) => {
            onChoose(chosen as T);
            close();
          }}
        />
      )}
    />
  );
}

interface DaysProps {
  label: string;
  value: number;
  words: string;
  onChoose: (days: number) => void;
}

function DaysWord({ label, value, words, onChoose }: DaysProps) {
  return (
    <InlinePicker
      label={label}
      value={words}
      picker={(close) => (
        <Space>
          <InputNumber
            aria-label={`${label}, in days`}
            min={0}
            max={60}
            value={value}
            onChange={(days) => onChoose(days ?? 0)}
            onPressEnter={close}
          />
          days
        </Space>
      )}
    />
  );
}
