import { Tooltip } from "antd";
import { riskOf, verdictInWords, type Mark, type Region } from "@/entities/access/model";
import { VerdictMark } from "@/entities/access/VerdictMark";
import type { AccessClass } from "@/shared/theme/theme";
import styles from "./Marks.module.css";

interface MarkProps {
  mark: Mark;
  where: string;
  pressed: boolean;
  /** Whether its name stands beside it. */
  inWords?: boolean;
  onOpen: () => void;
}

function Shape({ mark }: { mark: Mark }) {
  return (
    <VerdictMark
      verdict={mark.verdict}
      accessClass={mark.permission.accessClass as AccessClass}
      risk={riskOf(mark.permission)}
      share={mark.share}
    />
  );
}

/** The verdict on one permission in one region; opens its routes. */
export function MarkButton({ mark, where, pressed, inWords, onOpen }: MarkProps) {
  const words = `${mark.permission.name}: ${verdictInWords(mark)}`;
  return (
    <Tooltip title={inWords ? mark.permission.description : words} mouseEnterDelay={0.3}>
      <button
        type="button"
        className={inWords ? styles["named"] : styles["mark"]}
        data-permission={mark.permission.key}
        data-verdict={mark.verdict}
        aria-expanded={pressed}
        aria-label={`${words}, ${where}. Show routes`}
        onClick={onOpen}
      >
        <Shape mark={mark} />
        {inWords && <span>{mark.permission.name}</span>}
      </button>
    </Tooltip>
  );
}

interface NamesProps {
  region: Region;
  marks: Mark[];
  onOpen: (mark: Mark) => void;
}

/** Names of members that a region lists before the list is cut. */
const MEMBERS_SHOWN = 40;

/** The permissions of a region by name. */
export function MarkNames({ region, marks, onOpen }: NamesProps) {
  return (
    <>
      {region.members.length > 0 && (
        <p className="quiet">
          {region.members.join(", ")}
          {region.shape === "alike" && region.members.length >= MEMBERS_SHOWN ? "…" : ""}
        </p>
      )}
      <ul className={styles["names"]}>
        {marks.map((mark) => (
          <li key={mark.permission.key}>
            <button type="button" onClick={() => onOpen(mark)} title={mark.permission.description}>
              <Shape mark={mark} />
              {mark.permission.name} <small>{verdictInWords(mark)}</small>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
