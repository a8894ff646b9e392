import { useId, useRef, useState, type ReactNode } from "react";
import { Popover } from "antd";
import styles from "./InlinePicker.module.css";

interface Props {
  /** What the value is about. The button's accessible name is "label: value". */
  label: string;
  value: ReactNode;
  /** A word of a sentence, or a control of its own. */
  look?: "word" | "link" | "button" | "path";
  /** The picker's content; call `close` when a value is chosen. */
  picker: (close: () => void) => ReactNode;
}

/** A word of a sentence that opens a picker in place. */
export function InlinePicker({ label, value, picker, look = "word" }: Props) {
  const [open, setOpen] = useState(false);
  const id = useId();
  const body = useRef<HTMLDivElement>(null);
  function close() {
    setOpen(false);
    document.getElementById(id)?.focus();
  }
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      // Before it is in sight, a field cannot take the focus.
      afterOpenChange={(shown) => {
        if (shown) body.current?.querySelector<HTMLElement>("input, textarea")?.focus();
      }}
      trigger="click"
      placement="bottomLeft"
      arrow={false}
      destroyOnHidden
      motion={{ motionName: "" }} // no movement between press and release
      content={
        // eslint-disable-next-line jsx-a11y/no-static-element-interactions -- only catches Escape
        <div
          ref={body}
          className={styles["body"]}
          onKeyDown={(event) => {
            if (event.key === "Escape") {
              event.stopPropagation();
              close();
            }
          }}
        >
          {picker(close)}
        </div>
      }
    >
      <button
        id={id}
        type="button"
        className={styles[look]}
        data-field={label}
        aria-label={typeof value === "string" ? `${label}: ${value}` : undefined}
        aria-haspopup="dialog"
        aria-expanded={open}
      >
        {typeof value !== "string" && <span className="hidden-text">{label}: </span>}
        {value}
      </button>
    </Popover>
  );
}
