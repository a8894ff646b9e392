import { useState } from "react";
import type { Schemas } from "../../../api/client";
import type { AccessClass, Risk } from "../../../app/theme";
import { VerdictMark } from "../../../components/VerdictMark";
import type { Question } from "../model";
import { RoutesPanel } from "./RoutesPanel";

type Line = Schemas["DifferenceLine"];

interface Props {
  lines: Line[];
  /** What is said of a gain and of a loss, before the number of places. */
  words: { gained: string; lost: string };
  /** The question that opens the routes of a line, on the side that has it; none where nobody has. */
  question: (line: Line) => Question | undefined;
}

/** Rights that differ, by permission and account; each opens the routes of one place. */
export function RightLines({ lines, words, question }: Props) {
  const [open, setOpen] = useState<string>();
  return (
    <ul className="impact-lines">
      {lines.map((it) => {
        const id = `${it.account} ${it.permission}`;
        const asked = question(it);
        const said = [
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
              {it.permissionName} in {it.accountName}: {said.join(", ")}
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
