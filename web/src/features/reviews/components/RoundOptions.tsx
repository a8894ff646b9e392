import { InputNumber, Select, Space, Switch } from "antd";
import { ONLY_WORDS, REPEATS_WORDS } from "../model";
import type { RoundOrder } from "../queries";

interface Props {
  order: RoundOrder;
  onChange: (changes: Partial<RoundOrder>) => void;
}

const DETECTORS: Record<string, string> = {
  "left-over": "Left over from before a move",
  "unused-assignment": "Unused assignment",
  "scope-wider-than-use": "Scope wider than use",
  "role-wider-than-use": "Role wider than use",
  "standing-critical": "Critical access used on few days",
  "guest-past-purpose": "Guest who uses nothing",
  "guest-without-end": "Guest without an end date",
  "redundant-assignment": "Redundant assignment",
  "gives-nothing": "Grants nothing",
  "broad-scope": "Very broad assignment",
};

const options = (words: Record<string, string>) =>
  Object.entries(words).map(([value, label]) => ({ value, label }));

/** What else a round is: what of it, how often, and what keeps it from being waved through. */
export function RoundOptions({ order, onChange }: Props) {
  return (
    <Space wrap size={[20, 10]}>
      <Select
        aria-label="Which items"
        value={order.only}
        popupMatchSelectWidth={false}
        onChange={(only) => onChange({ only })}
        options={options(ONLY_WORDS) as { value: RoundOrder["only"]; label: string }[]}
      />
      <Select
        aria-label="Repeats"
        value={order.repeats}
        popupMatchSelectWidth={false}
        onChange={(repeats) => onChange({ repeats })}
        options={options(REPEATS_WORDS) as { value: RoundOrder["repeats"]; label: string }[]}
      />
      <Select
        aria-label="Part of findings"
        mode="multiple"
        placeholder="Any item, with or without findings"
        style={{ minWidth: 280 }}
        value={order.detectors}
        onChange={(detectors) => onChange({ detectors })}
        options={options(DETECTORS)}
      />
      <Space>
        <Switch
          aria-label="Pass conflicts on"
          checked={order.passOn}
          onChange={(passOn) => onChange({ passOn })}
        />
        Pass on what reviewers granted themselves, or review of each other
      </Space>
      <Space>
        <InputNumber
          aria-label="Control items"
          min={0}
          max={5}
          value={order.controls}
          onChange={(it) => onChange({ controls: it ?? 0 })}
          style={{ width: 64 }}
        />
        known wrong items for each reviewer
      </Space>
    </Space>
  );
}
