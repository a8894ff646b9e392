import type { ReactNode } from "react";
import styles from "./Sentence.module.css";

/** A question or filter as one sentence, whose bold words are fields. */
export function Sentence({ children }: { children: ReactNode }) {
  return <h1 className={styles["sentence"]}>{children}</h1>;
}

/** Keeps a field and the punctuation after it on one line. */
export function Keep({ children }: { children: ReactNode }) {
  return <span className={styles["keep"]}>{children}</span>;
}
