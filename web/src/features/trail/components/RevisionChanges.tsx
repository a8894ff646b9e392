import { Checkbox } from "antd";
import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";
import styles from "./RevisionList.module.css";

/** Changes that are listed one by one. */
const SHOWN = 200;

interface Props {
  changes: Schemas["RevisionChange"][];
  chosen: number[];
  onChoose: (chosen: number[]) => void;
}

/** The changes of a revision, to choose those that are taken back. */
export function RevisionChanges({ changes, chosen, onChoose }: Props) {
  const shown = changes.slice(0, SHOWN);
  const more = changes.length - shown.length;
  const others = chosen.filter((at) => !shown.some((it) => it.at === at));
  return (
    <>
      <Checkbox
        checked={chosen.length === changes.length}
        indeterminate={chosen.length > 0 && chosen.length < changes.length}
        onChange={(event) => onChoose(event.target.checked ? changes.map((it) => it.at) : [])}
      >
        All changes
      </Checkbox>
      <Checkbox.Group<number>
        className={styles["choices"] ?? ""}
        value={chosen.filter((at) => !others.includes(at))}
        options={shown.map((it) => ({ value: it.at, label: it.sentences.join("; ") }))}
        onChange={(next) => onChoose([...next, ...others])}
      />
      {more > 0 && <p className="note">{count(more, "more change")} not listed here.</p>}
    </>
  );
}
