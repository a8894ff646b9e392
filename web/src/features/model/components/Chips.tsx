import type { ReactNode } from "react";
import { Field } from "../../../components/Field";
import { ThingPicker } from "../../../components/ThingPicker";
import { ThingName } from "./ThingName";

interface Props {
  label: string;
  kind: string;
  keys: string[];
  /** Said between them. */
  between?: string;
  /** Another way to choose than from the things of the kind. */
  picker?: (add: (key: string) => void, without: string[]) => ReactNode;
  onChange: (keys: string[]) => void;
}

/** A list of things by name; each can be taken out, others put in. */
export function Chips({ label, kind, keys, between, picker, onChange }: Props) {
  return (
    <ul className="chips" aria-label={label}>
      {keys.map((key, at) => (
        <li key={key}>
          {between && at > 0 && <span className="quiet">{between} </span>}
          <ThingName kind={kind} reference={key} />
          <button
            type="button"
            aria-label={`Take ${key} out`}
            onClick={() => onChange(keys.filter((it) => it !== key))}
          >
            ✕
          </button>
        </li>
      ))}
      <li className="adds-one">
        <Field
          label={`${label}: add`}
          className="link"
          value="add"
          picker={(close) => {
            const add = (key: string) => {
              if (!keys.includes(key)) onChange([...keys, key]);
              close();
            };
            return picker ? (
              picker(add, keys)
            ) : (
              <ThingPicker kind={kind} label={label} without={keys} onChoose={add} />
            );
          }}
        />
      </li>
    </ul>
  );
}
