import { DatePicker } from "antd";
import dayjs from "dayjs";

interface Props {
  label: string;
  /** A day, 2026-11-28, or empty. */
  value: string;
  onChange: (day: string) => void;
  placeholder?: string;
  disabled?: boolean;
}

/** A day. Shown as 28 Nov 2026; typed as that or as 2026-11-28. */
export function DateField({ label, value, onChange, placeholder = "any day", disabled }: Props) {
  return (
    <DatePicker
      aria-label={label}
      placeholder={placeholder}
      disabled={disabled ?? false}
      format={["D MMM YYYY", "YYYY-MM-DD"]}
      value={value ? dayjs(value) : null}
      onChange={(day) => onChange(day?.isValid() ? day.format("YYYY-MM-DD") : "")}
    />
  );
}
