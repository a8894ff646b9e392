import { useState } from "react";
import type { Schemas } from "@/shared/api/client";
import type { AccessClass, Risk } from "@/shared/theme/theme";
import type { Question } from "./model";
import styles from "./RightDifferences.module.css";
import { RoutesPanel } from "./RoutesPanel";
import { VerdictMark } from "./VerdictMark";

type Line = Schemas["DifferenceLine"];

interface Props {
  lines: Line[];
  /** What precedes the number of resources of a gain and of a loss. */
  words: { gained: string; lost: string };
  /** The question that opens the routes of a line; undefined where nobody has it. */
  question: (line: Line) => Question | undefined;
}

/** Rights that differ, by permission and account; each opens the routes on one resource. */
export function RightDifferences({ lines, words, question }: Props) {
  const [open, setOpen] = useState<string>();
  return (
    <ul className={styles["lines"]}>
      {lines.map((it) => {
        const id = `${it.account} ${it.permission}`;
        const asked = question(it);
        const differs = [
          it.gained > 0 && `${words.gained} ${it.gained.toLocaleString("en")}`,
          it.lost > 0 && `${words.lost} ${it.lost.toLocaleString("en")}`,
        ].filter(Boolean);
        return (
          <li key={id} className={it.gained > 0 ? "adds" : "removes"}>
            <button
              type="button"
              aria-expanded={open === id}
              disabled={!it.sample || !asked}
              onClick={() => setOpen(open === id ? undefined : id)}
            >
              <VerdictMark
                verdict="allowed"
                accessClass={it.accessClass as AccessClass}
                risk={it.risk as Risk}
              />{" "}
              {it.permissionName} in {it.accountName}: {differs.join(", ")}
            </button>
            {open === id && it.sample && asked && (
              <RoutesPanel question={asked} permission={it.permission} resource={it.sample} />
            )}
          </li>
        );
      })}
    </ul>
  );
}
