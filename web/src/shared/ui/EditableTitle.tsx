import { useState } from "react";
import { Input } from "antd";
import styles from "./EditableTitle.module.css";

interface Props {
  label: string;
  name: string;
  placeholder?: string;
  /** Called with the trimmed name, never with an empty or unchanged one. */
  onName: (name: string) => void;
}

/** A title that is edited in place: Enter or leaving the field takes it, Escape puts it back. */
export function EditableTitle({ label, name, placeholder, onName }: Props) {
  const [typed, setTyped] = useState(name);
  return (
    <Input
      variant="borderless"
      className={styles["title"] ?? ""}
      aria-label={label}
      placeholder={placeholder}
      value={typed}
      maxLength={200}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => {
        const next = typed.trim();
        if (next && next !== name) onName(next);
        else setTyped(name);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setTyped(name);
      }}
    />
  );
}
