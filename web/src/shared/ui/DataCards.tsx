import type { ReactNode } from "react";
import { Checkbox } from "antd";
import type { DataTableProps } from "./DataTable";
import styles from "./DataTable.module.css";

function isEmpty(shown: ReactNode): boolean {
  return shown === "" || shown === null || shown === undefined || shown === false;
}

/** The rows of a table as cards, for a narrow screen. */
export function DataCards<T>({
  label,
  rows,
  columns,
  rowKey,
  rowClass,
  selection,
  detail,
  empty,
}: DataTableProps<T>) {
  if (rows.length === 0) return <p className="note">{empty ?? "Nothing here."}</p>;
  const title = columns.find((it) => it.card === "title") ?? columns[0];
  const lines = columns.filter((it) => it !== title);
  function choose(key: string, is: boolean) {
    const { chosen = [], most } = selection ?? {};
    const next = is ? [...chosen, key] : chosen.filter((it) => it !== key);
    selection?.onChange(most === undefined ? next : next.slice(-most));
  }
  return (
    <ul className={styles["cards"]} aria-label={label}>
      {rows.map((row) => {
        const key = rowKey(row);
        return (
          <li key={key} className={rowClass?.(row)}>
            <div className={styles["title"]}>
              {selection && (
                <Checkbox
                  aria-label={`Select ${selection.name(row)}`}
                  checked={selection.chosen.includes(key)}
                  onChange={(event) => choose(key, event.target.checked)}
                />
              )}
              {title?.render(row)}
            </div>
            <dl>
              {lines.map((it) => {
                const shown = it.render(row);
                return isEmpty(shown) ? null : (
                  <div key={it.key}>
                    <dt className={it.quietTitle ? "hidden-text" : undefined}>{it.title}</dt>
                    <dd>{shown}</dd>
                  </div>
                );
              })}
            </dl>
            {detail?.open.includes(key) && detail.render(row)}
          </li>
        );
      })}
    </ul>
  );
}
