import { useState } from "react";

interface Props {
  values: Record<string, string>;
  onChange: (values: Record<string, string>) => void;
}

/** Strings by name, one added at a time. */
export function Attributes({ values, onChange }: Props) {
  const [name, setName] = useState("");
  const [value, setValue] = useState("");
  function add() {
    if (!name.trim()) return;
    onChange({ ...values, [name.trim()]: value });
    setName("");
    setValue("");
  }
  return (
    <>
      {Object.entries(values).map(([each, of]) => (
        <p key={each} className="entry">
          {each}: {of || "(empty)"}
          <button
            type="button"
            className="link"
            aria-label={`Without ${each}`}
            onClick={() =>
              onChange(Object.fromEntries(Object.entries(values).filter(([it]) => it !== each)))
            }
          >
            ✕
          </button>
        </p>
      ))}
      <p className="entry">
        <input
          className="plain-input"
          aria-label="Name of an attribute"
          placeholder="name"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />{" "}
        <input
          className="plain-input"
          aria-label="Value of an attribute"
          placeholder="value"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && add()}
        />{" "}
        <button type="button" className="link" disabled={!name.trim()} onClick={add}>
          add
        </button>
      </p>
    </>
  );
}
