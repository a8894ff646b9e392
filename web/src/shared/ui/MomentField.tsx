import { useState } from "react";
import { Checkbox, DatePicker, Select, Space } from "antd";
import {
  instantOf,
  keepZone,
  momentOf,
  zoneInUse,
  zones,
  type Edge,
  type Moment,
} from "@/shared/lib/moments";

interface Props {
  label: string;
  /** An instant in UTC, or empty. */
  value: string;
  /** Whether a whole day stands for its first moment, or for its end. */
  edge: Edge;
  placeholder?: string;
  onChange: (instant: string) => void;
}

/** A day, or a moment of it, in a zone that is said. A day without a time is the whole day. */
export function MomentField({ label, value, edge, placeholder = "any day", onChange }: Props) {
  const [zone, setZone] = useState(zoneInUse);
  const moment = momentOf(value, edge, zone);
  const [timed, setTimed] = useState(moment?.timed ?? false);
  const put = (next: Moment) => onChange(instantOf(next, edge, zone));
  return (
    <Space size={4} wrap>
      <DatePicker
        aria-label={label}
        placeholder={placeholder}
        format={timed ? ["D MMM YYYY HH:mm", "YYYY-MM-DD HH:mm"] : ["D MMM YYYY", "YYYY-MM-DD"]}
        showTime={timed && { format: "HH:mm" }}
        needConfirm={false}
        value={moment?.day ?? null}
        onChange={(day) => (day?.isValid() ? put({ day, timed }) : onChange(""))}
      />
      <Checkbox
        checked={timed}
        aria-label={`${label}: at a time`}
        onChange={(event) => {
          const next = event.target.checked;
          setTimed(next);
          if (moment)
            put({ day: next ? moment.day.hour(edge === "end" ? 18 : 8) : moment.day, timed: next });
        }}
      >
        at a time
      </Checkbox>
      <Select
        size="small"
        variant="borderless"
        aria-label={`${label}: zone`}
        value={zone}
        popupMatchSelectWidth={220}
        showSearch
        options={zones().map((it) => ({ value: it, label: it.replaceAll("_", " ") }))}
        onChange={(next: string) => {
          keepZone(next);
          setZone(next);
          // what is chosen stays as it is read: the same day and time, in the other zone
          if (moment) onChange(instantOf(moment, edge, next));
        }}
      />
    </Space>
  );
}
