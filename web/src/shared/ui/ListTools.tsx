import type { ReactNode } from "react";
import { Button, Checkbox, Popover } from "antd";
import type { Column } from "./DataTable";
import styles from "./ListTools.module.css";
import type { ListView } from "./useListView";
import { download } from "@/shared/lib/download";

interface Props<T> {
  label: string;
  columns: Column<T>[];
  rows: T[];
  view: ListView;
  exported?: boolean | undefined;
  extra?: ReactNode;
}

/** What one can do with a list as a whole: choose its columns, save it as a file. */
export function ListTools<T>({ label, columns, rows, view, exported, extra }: Props<T>) {
  const choosable = columns.filter((it) => it.card !== "title" && !it.quietTitle);
  return (
    <div className={styles["tools"]}>
      <ColumnChoice
        columns={choosable.map((it) => ({ key: it.key, title: it.title }))}
        hidden={view.hidden}
        onHide={view.setHidden}
      />
      {!exported && (
        <Button
          type="text"
          size="small"
          disabled={rows.length === 0}
          onClick={() => void save(label, columns, rows)}
        >
          Export as CSV
        </Button>
      )}
      {extra}
    </div>
  );
}

interface ChoiceProps {
  columns: { key: string; title: string }[];
  hidden: string[];
  onHide: (columns: string[]) => void;
}

/** Chooses the columns of a list. */
export function ColumnChoice({ columns, hidden, onHide }: ChoiceProps) {
  return (
    <Popover
      trigger="click"
      placement="bottomLeft"
      content={
        <Checkbox.Group
          className={styles["columns"] ?? ""}
          aria-label="Columns"
          value={columns.filter((it) => !hidden.includes(it.key)).map((it) => it.key)}
          options={columns.map((it) => ({ value: it.key, label: it.title }))}
          onChange={(shown) =>
            onHide(columns.map((it) => it.key).filter((it) => !shown.includes(it)))
          }
        />
      }
    >
      <Button type="text" size="small">
        Columns
      </Button>
    </Popover>
  );
}

/** A cell as plain text. */
function cell<T>(column: Column<T>, row: T): string | number {
  if (column.text) return column.text(row);
  const shown = column.render(row);
  if (typeof shown === "string" || typeof shown === "number") return shown;
  return column.order?.(row) ?? "";
}

/** Saves all rows, with the columns that have words, as CSV. */
async function save<T>(label: string, columns: Column<T>[], rows: T[]): Promise<void> {
  const told = columns.filter((it) => !it.quietTitle);
  const { unparse } = await import("papaparse");
  const text = unparse(
    {
      fields: told.map((it) => it.title),
      data: rows.map((row) => told.map((it) => cell(it, row))),
    },
    { escapeFormulae: true },
  );
  download(`${label.toLowerCase().replaceAll(" ", "-")}.csv`, text);
}
