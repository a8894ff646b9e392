import { useState, type KeyboardEvent } from "react";
import { Button, Popover } from "antd";
import type { Schemas } from "@/shared/api/client";
import type { MatrixView } from "@/entities/place/queries";
import type { AccessClass, Risk } from "@/shared/theme/theme";
import { cellInWords, type CellWish } from "../model";
import { CellMark } from "./CellMark";
import styles from "./Matrix.module.css";

interface Props {
  row: MatrixView["rows"][number];
  permission: MatrixView["permissions"][number];
  assignments: Record<string, Schemas["AssignmentView"]>;
  /** Row and column, "2-5". */
  position: string;
  /** Whether Tab comes to this cell. */
  current: boolean;
  onFocus: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  /** Absent where the viewer may not assign here. */
  onWish: ((wish: CellWish) => void) | undefined;
}

const CHOICES: { wish: CellWish; label: string; key: string }[] = [
  { wish: "allow", label: "Grant here", key: "a" },
  { wish: "deny", label: "Deny here", key: "d" },
  { wish: "nothing", label: "Clear", key: "Delete" },
];

/** One cell of the access matrix; its menu grants, denies or clears it. */
export function MatrixCell(props: Props) {
  const { row, permission, assignments, position, current, onFocus, onKeyDown, onWish } = props;
  const [open, setOpen] = useState(false);
  const cell = row.cells[permission.key];
  const assignment = cell && assignments[cell.assignment];
  return (
    <Popover
      trigger="click"
      arrow={false}
      placement="bottomLeft"
      destroyOnHidden
      open={open}
      onOpenChange={setOpen}
      content={
        <div className={styles["menu"]}>
          <p>{cellInWords(cell)}</p>
          {assignment && (
            <p className="note">
              {assignment.givesName}: {assignment.where}
            </p>
          )}
          {!onWish && <p className="note">You can&apos;t assign access here.</p>}
          {onWish &&
            CHOICES.map((it) => (
              <Button
                key={it.wish}
                size="small"
                disabled={it.wish === "nothing" && cell?.way !== "own"}
                onClick={() => {
                  setOpen(false);
                  onWish(it.wish);
                }}
              >
                {it.label} <kbd>{it.key}</kbd>
              </Button>
            ))}
        </div>
      }
    >
      <button
        type="button"
        className={`${styles["cell"] ?? ""} ${cell?.changed ? (styles["changed"] ?? "") : ""}`}
        data-at={position}
        data-subject={row.subject}
        data-permission={permission.key}
        tabIndex={current ? 0 : -1}
        aria-label={`${row.name}, ${permission.name}: ${cellInWords(cell)}`}
        onFocus={onFocus}
        onKeyDown={onKeyDown}
      >
        <CellMark
          cell={cell}
          accessClass={permission.accessClass as AccessClass}
          risk={permission.risk as Risk}
        />
      </button>
    </Popover>
  );
}
