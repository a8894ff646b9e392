import { Checkbox } from "antd";
import type { Answer } from "@/entities/access/model";
import styles from "./ActivationPicker.module.css";

type Activatable = Answer["switchable"];

/** Which just-in-time assignments the question treats as active. */
export function activatedInWords(chosen: number, activatable: Activatable): string {
  const active = activatable.filter((it) => it.on).length;
  if (chosen > 0) return `${chosen} activated`;
  return active > 0 ? `what they have activated (${active})` : "nothing activated";
}

interface Props {
  on: string[];
  activatable: Activatable;
  onChange: (keys: string[]) => void;
}

/** Chooses just-in-time assignments to treat as active. */
export function ActivationPicker({ on, activatable, onChange }: Props) {
  return (
    <fieldset className={styles["picker"]}>
      <legend>As if they had activated</legend>
      {activatable.map((it) => (
        <Checkbox
          key={it.key}
          checked={it.on || on.includes(it.key)}
          disabled={it.on}
          onChange={(event) =>
            onChange(event.target.checked ? [...on, it.key] : on.filter((each) => each !== it.key))
          }
        >
          {it.said}
          {it.on && <small> active now</small>}
        </Checkbox>
      ))}
    </fieldset>
  );
}
