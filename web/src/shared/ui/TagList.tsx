import type { ReactNode } from "react";
import { Tag } from "antd";
import styles from "./TagList.module.css";

interface Item {
  key: string;
  /** What the remove button says: "Remove {name}". */
  name: string;
  content?: ReactNode;
}

interface Props {
  label: string;
  items: Item[];
  /** Word between two items. */
  between?: string | undefined;
  /** Without it nothing can be removed. */
  onRemove?: ((key: string) => void) | undefined;
  /** The control that adds one. */
  add?: ReactNode;
}

/** Things by name in a row, each removable. */
export function TagList({ label, items, between, onRemove, add }: Props) {
  return (
    <ul className={styles["tags"]} aria-label={label}>
      {items.map((it, at) => (
        <li key={it.key}>
          {between && at > 0 && <span className="quiet">{between} </span>}
          <Tag
            {...(onRemove && {
              closable: { "aria-label": `Remove ${it.name}` },
              onClose: (event) => {
                event.preventDefault(); // the list is drawn from the model
                onRemove(it.key);
              },
            })}
          >
            {it.content ?? it.name}
          </Tag>
        </li>
      ))}
      {items.length === 0 && <li className="quiet">none</li>}
      {add && <li>{add}</li>}
    </ul>
  );
}
