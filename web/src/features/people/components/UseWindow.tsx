import { Select } from "antd";
import { dayOf } from "@/shared/lib/words";

interface Props {
  days: number;
  /** The first day of the window. */
  first: string;
  onChange: (days: number) => void;
}

const WINDOWS = [30, 90, 180, 365];

/** The days of which use is looked at. */
export function UseWindow({ days, first, onChange }: Props) {
  return (
    <p className="bar">
      <label>
        Use in the last{" "}
        <Select
          aria-label="Window"
          size="small"
          value={days}
          onChange={onChange}
          options={[...new Set([...WINDOWS, days])]
            .sort((a, b) => a - b)
            .map((it) => ({ value: it, label: `${it} days` }))}
        />
      </label>{" "}
      <span className="note">since {dayOf(first)}</span>
    </p>
  );
}
