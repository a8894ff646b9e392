import styles from "./DraftMark.module.css";

const WORDS: Record<string, string> = {
  adds: "added by the draft",
  alters: "changed by the draft",
  removes: "removed by the draft",
};

/** What the open draft does to a thing: a raised edge for an addition, a sunken one for a removal. */
export function DraftMark({ mark }: { mark: string | undefined }) {
  if (!mark) return null;
  return <small className={`${styles["mark"] ?? ""} ${mark}`}>{WORDS[mark] ?? mark}</small>;
}
