import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from "react";

export interface Option {
  value: string;
  label: string;
  note?: string;
  depth?: number;
}

interface Props {
  options: Option[];
  value?: string;
  label: string;
  /** Typing filters here, or asks elsewhere where given. */
  onType?: (text: string) => void;
  onChoose: (value: string) => void;
  waiting?: boolean;
  footer?: ReactNode;
}

/** A short list to choose from by typing, arrows and Enter. */
export function Choose({ options, value, label, onType, onChoose, waiting, footer }: Props) {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const id = useId();
  const wanted = text.trim().toLowerCase();
  const shown = onType
    ? options
    : options.filter((it) => `${it.label} ${it.note ?? ""}`.toLowerCase().includes(wanted));
  const active = Math.min(at, Math.max(0, shown.length - 1));

  // Only the list scrolls: scrolling its ancestors would move the options away from the pointer.
  useEffect(() => {
    const box = list.current;
    const option = box?.children[active];
    if (!box || !(option instanceof HTMLElement)) return;
    const top = option.offsetTop - box.offsetTop;
    if (top < box.scrollTop) box.scrollTop = top;
    const bottom = top + option.offsetHeight - box.clientHeight;
    if (bottom > box.scrollTop) box.scrollTop = bottom;
  }, [active]);

  function press(event: KeyboardEvent) {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      setAt(Math.max(0, Math.min(shown.length - 1, active + step)));
    }
    const chosen = shown[active];
    if (event.key === "Enter" && chosen) {
      event.preventDefault();
      onChoose(chosen.value);
    }
  }

  return (
    <div className="choose">
      <input
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls={id}
        aria-activedescendant={shown[active] ? `${id}-${active}` : undefined}
        aria-label={label}
        placeholder={label}
        value={text}
        onKeyDown={press}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          onType?.(event.target.value);
        }}
      />
      <ul id={id} role="listbox" aria-label={label} ref={list}>
        {shown.map((option, i) => (
          <li
            key={option.value}
            id={`${id}-${i}`}
            role="option"
            aria-selected={option.value === value}
            className={i === active ? "active" : undefined}
            style={{ paddingInlineStart: 10 + 14 * (option.depth ?? 0) }}
            onMouseEnter={() => setAt(i)}
            // The press chooses, not the click: while the list still opens or is aligned anew, the
            // button may come up over another option, and then there is no click at all.
            onMouseDown={(event) => {
              if (event.button !== 0) return;
              event.preventDefault(); // the field keeps the focus
              onChoose(option.value);
            }}
            // Assistive technology clicks without pressing.
            onClick={(event) => {
              if (event.detail === 0) onChoose(option.value);
            }}
          >
            {option.label}
            {option.note && <small>{option.note}</small>}
          </li>
        ))}
      </ul>
      {shown.length === 0 && (
        <p className="choose-empty">{waiting ? "Fetching …" : "Nothing fits what you typed."}</p>
      )}
      {footer}
    </div>
  );
}
