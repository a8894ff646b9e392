import { Select } from "antd";
import { isLeft, noteOf, type Subject } from "@/entities/decision/model";
import styles from "./SubjectList.module.css";

interface Props {
  subjects: Subject[];
  shown: number | undefined;
  onShow: (item: number | undefined) => void;
}

const first = (it: Subject | undefined) => (it?.items.find(isLeft) ?? it?.items[0])?.number;

const KEYS = [
  ["j", "next"],
  ["k", "back"],
  ["1", "keep"],
  ["2", "reduce"],
  ["3", "remove"],
  ["4", "pass on"],
  ["5", "ask"],
  ["u", "undo"],
];

/** Whose items one decides, the harmful first; on a small screen as one field. */
export function SubjectList({ subjects, shown, onShow }: Props) {
  const here = subjects.find((it) => it.items.some((each) => each.number === shown));
  return (
    <nav aria-label="Whose access" className={styles["list"]}>
      <div className={styles["small"]}>
        <Select
          aria-label="Whose access"
          value={here?.key ?? null}
          onChange={(key) => onShow(first(subjects.find((it) => it.key === key)))}
          options={subjects.map((it) => ({
            value: it.key,
            label: `${it.name}: ${noteOf(it)}`,
          }))}
        />
      </div>
      <div className={styles["wide"]}>
        <h2 className="part">Your items</h2>
        <ul>
          {subjects.map((it) => (
            <li key={it.key}>
              <button
                type="button"
                aria-current={it === here ? "true" : undefined}
                data-done={it.items.some(isLeft) ? undefined : true}
                onClick={() => onShow(first(it))}
              >
                <strong>{it.name}</strong>
                <span className="note">{noteOf(it)}</span>
              </button>
            </li>
          ))}
        </ul>
        <p className={styles["keys"]}>
          {KEYS.map(([key, what]) => (
            <span key={key}>
              <kbd>{key}</kbd> {what}
            </span>
          ))}
        </p>
      </div>
    </nav>
  );
}
