import { useRef, useState, type ReactNode } from "react";
import { Popover } from "antd";

interface Props {
  /** What the field is about, for those who do not see it. */
  label: string;
  value: ReactNode;
  className?: string;
  /** The picker; it closes itself when something is chosen. */
  picker: (close: () => void) => ReactNode;
}

/** A bold word of a sentence that opens a picker in place. */
export function Field({ label, value, picker, className = "field" }: Props) {
  const [open, setOpen] = useState(false);
  const body = useRef<HTMLDivElement>(null);
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      // a field that is drawn before it is in sight cannot take the focus yet
      afterOpenChange={(shown) => {
        if (shown) body.current?.querySelector<HTMLInputElement>(".choose input")?.focus();
      }}
      trigger="click"
      placement="bottomLeft"
      arrow={false}
      destroyOnHidden
      motion={{ motionName: "" }} // stays where it is from the first frame: a press lands on what is seen
      content={
        <div
          ref={body}
          onKeyDown={(event) => {
            if (event.key === "Escape") setOpen(false);
          }}
        >
          {picker(() => setOpen(false))}
        </div>
      }
    >
      <button type="button" className={className} aria-label={label} aria-haspopup="dialog">
        {value}
      </button>
    </Popover>
  );
}
