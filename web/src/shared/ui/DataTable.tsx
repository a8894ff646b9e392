import type { Key, ReactNode } from "react";
import { Checkbox, Table, type TableProps } from "antd";
import type { GlossaryWord } from "@/shared/lib/glossary";
import { Term } from "./Term";
import { useNarrow } from "./useNarrow";
import styles from "./DataTable.module.css";

export interface Column<T> {
  key: string;
  title: string;
  render: (row: T) => ReactNode;
  /** The word of the glossary that the header is. */
  term?: GlossaryWord;
  /** Keeps the header for screen readers only. */
  quietTitle?: boolean;
  width?: number | string;
  numeric?: boolean;
  /** Written in the second colour. */
  quiet?: boolean;
  /** Cuts what is too long for the column, which then keeps its width. */
  ellipsis?: boolean;
  /** Sorts by this; without it the column does not sort. */
  order?: (row: T) => string | number;
  /** Names the row: its header, and the heading of its card on a narrow screen. */
  card?: "title" | "line";
}

interface Props<T> {
  label: string;
  rows: T[];
  columns: Column<T>[];
  rowKey: (row: T) => string;
  rowClass?: (row: T) => string | undefined;
  /** Rows to choose from by check box. */
  selection?: {
    chosen: string[];
    onChange: (keys: string[]) => void;
    name: (row: T) => string;
    most?: number;
  };
  /** What unfolds below a row, and which rows are unfolded. */
  detail?: { open: string[]; render: (row: T) => ReactNode };
  empty?: ReactNode;
  onPoint?: (row: T | undefined) => void;
}

/** A table; on a narrow screen each row becomes a card. Rows are read in the order given. */
export function DataTable<T>(props: Props<T>) {
  const narrow = useNarrow();
  return narrow ? <Cards {...props} /> : <Wide {...props} />;
}

function Wide<T>({
  label,
  rows,
  columns,
  rowKey,
  rowClass,
  selection,
  detail,
  empty,
  onPoint,
}: Props<T>) {
  const long = rows.length > 400;
  const table: TableProps<T & object> = {
    columns: columns.map((it) => ({
      key: it.key,
      title: it.quietTitle ? <span className="hidden-text">{it.title}</span> : titleOf(it),
      width: it.width,
      ellipsis: it.ellipsis ?? false,
      align: it.numeric ? "end" : "start",
      className: it.quiet ? "quiet" : undefined,
      rowScope: it.card === "title" ? "row" : undefined,
      render: (_: unknown, row: T) => it.render(row),
      ...(it.order && {
        showSorterTooltip: false,
        sorter: (a: T, b: T) => compare(it.order?.(a), it.order?.(b)),
      }),
    })),
    ...(selection && {
      rowSelection: {
        columnWidth: 34,
        ...(selection.most !== undefined && {
          columnTitle: <span className="hidden-text">Select</span>,
        }),
        hideSelectAll: selection.most !== undefined,
        selectedRowKeys: selection.chosen,
        onChange: (keys: Key[]) => {
          const chosen = keys.map(String);
          // the ones chosen last stay
          selection.onChange(selection.most === undefined ? chosen : chosen.slice(-selection.most));
        },
        getCheckboxProps: (row: T) => ({
          "aria-label": `Select ${selection.name(row)}`,
        }),
      },
    }),
    ...(detail && {
      expandable: {
        expandedRowKeys: detail.open,
        expandedRowRender: (row: T) => detail.render(row),
        showExpandColumn: false,
      },
    }),
    onRow: (row: T) => ({
      ...(onPoint && {
        onMouseEnter: () => onPoint(row),
        onMouseLeave: () => onPoint(undefined),
      }),
    }),
  };
  return (
    <Table
      {...table}
      className={styles["table"] ?? ""}
      aria-label={label}
      size="small"
      dataSource={rows as (T & object)[]}
      rowKey={rowKey}
      rowClassName={(row) => rowClass?.(row) ?? ""}
      pagination={long ? { pageSize: 200, showSizeChanger: false, size: "small" } : false}
      locale={{ emptyText: empty ?? "Nothing here." }}
    />
  );
}

function titleOf<T>(column: Column<T>): ReactNode {
  return column.term ? <Term word={column.term}>{column.title}</Term> : column.title;
}

function compare(a: string | number | undefined, b: string | number | undefined): number {
  if (typeof a === "number" && typeof b === "number") return a - b;
  return String(a ?? "").localeCompare(String(b ?? ""));
}

function isEmpty(shown: ReactNode): boolean {
  return shown === "" || shown === null || shown === undefined || shown === false;
}

function Cards<T>({ label, rows, columns, rowKey, rowClass, selection, detail, empty }: Props<T>) {
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
