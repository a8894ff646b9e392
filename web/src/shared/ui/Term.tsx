import type { ReactNode } from "react";
import { Tooltip } from "antd";
import { GLOSSARY, type GlossaryWord } from "@/shared/lib/glossary";
import styles from "./Term.module.css";

/** One of Mandala's own words; its sentence shows on hover and on focus. */
export function Term({ word, children }: { word: GlossaryWord; children?: ReactNode }) {
  return (
    <Tooltip title={GLOSSARY[word]} trigger={["hover", "focus"]}>
      <button type="button" className={styles["term"]}>
        {children ?? word}
      </button>
    </Tooltip>
  );
}
