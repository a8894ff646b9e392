import { Input } from "antd";
import styles from "./SentenceInput.module.css";

interface Props {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** What it says while it is empty. */
  placeholder?: string;
}

/** A word of a sentence that is typed. */
export function SentenceInput({ label, value, onChange, placeholder = "anything" }: Props) {
  return (
    <Input
      variant="borderless"
      className={styles["input"]}
      aria-label={label}
      placeholder={placeholder}
      value={value}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
