import type { Key, ReactNode } from "react";
import { Table, type TableProps } from "antd";
import type { GlossaryWord } from "@/shared/lib/glossary";
import { DataCards } from "./DataCards";
import { ListTools } from "./ListTools";
import { Term } from "./Term";
import { PAGE_SIZES, useListView, type ListView } from "./useListView";
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
  /** Sorts, too, but the rows come in the order that the view says: those of a tree. */
  sorted?: boolean;
  /** What the column says in a file, where that is neither what sorts it nor plain text. */
  text?: (row: T) => string | number;
  /** Names the row: its header, and the heading of its card on a narrow screen. */
  card?: "title" | "line";
}

export interface DataTableProps<T> {
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
  /**
   * Lets people choose columns, order, page size and a file. The address keeps them under this name;
   * each list of a page has its own.
   */
  tools?: string | undefined;
  /** Whether the page exports the list in its own way. */
  exported?: boolean;
  /** Further tools beside those. */
  extra?: ReactNode;
  empty?: ReactNode;
  onPoint?: (row: T | undefined) => void;
}

/** A table; on a narrow screen each row becomes a card. Rows are read in the order given. */
export function DataTable<T>(props: DataTableProps<T>) {
  const narrow = useNarrow();
  if (props.tools === undefined) return narrow ? <DataCards {...props} /> : <Wide {...props} />;
  return <WithTools {...props} tools={props.tools} narrow={narrow} />;
}

function WithTools<T>(props: DataTableProps<T> & { tools: string; narrow: boolean }) {
  const { tools, narrow, columns, rows, exported, extra, label } = props;
  const view = useListView(tools);
  const shown = { ...props, columns: columns.filter((it) => !view.hidden.includes(it.key)) };
  return (
    <>
      <ListTools
        label={label}
        columns={columns}
        rows={rows}
        view={view}
        exported={exported}
        extra={extra}
      />
      {narrow ? <DataCards {...shown} /> : <Wide {...shown} view={view} />}
    </>
  );
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
  view,
}: DataTableProps<T> & { view?: ListView }) {
  const size = view?.size ?? 200;
  const long = rows.length > (view ? size : 400);
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
      ...((it.order ?? it.sorted) && {
        showSorterTooltip: false,
        sorter: it.sorted ? true : (a: T, b: T) => compare(it.order?.(a), it.order?.(b)),
        ...(view && { sortOrder: view.sort.key === it.key ? view.sort.order : null }),
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
      onChange={(_, __, sorter, { action }) => {
        if (!Array.isArray(sorter) && action === "sort") view?.setSort(sorter);
      }}
      pagination={
        long && {
          pageSize: size,
          size: "small",
          showSizeChanger: view !== undefined,
          ...(view && {
            pageSizeOptions: PAGE_SIZES,
            onShowSizeChange: (_: number, next: number) => view.setSize(next),
          }),
        }
      }
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
