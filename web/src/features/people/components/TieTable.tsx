import type { ReactNode } from "react";
import { dateOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { shareInWords } from "../lifecycle";
import type { TieView } from "../lifecycleQueries";

interface Props {
  label: string;
  ties: TieView[];
  /** What becomes of one, to choose from. */
  becomes?: (tie: TieView) => ReactNode;
  /** Chooses among them by check box. */
  selection?: { chosen: string[]; onChange: (ids: string[]) => void };
  /** Shows how many colleagues have the same; `after`: after a move, too. */
  colleagues?: "now" | "after";
}

/** What ties somebody to the model, a row each. */
export function TieTable({ label, ties, becomes, selection, colleagues }: Props) {
  const columns: Column<TieView>[] = [
    {
      key: "what",
      title: "What they have",
      card: "title",
      render: (it) => (
        <>
          {it.text}
          {it.until && <span className="quiet"> until {dateOf(it.until)}</span>}
        </>
      ),
    },
    { key: "account", title: "Account", quiet: true, render: (it) => it.accountName ?? "" },
    ...(colleagues
      ? [
          {
            key: "colleagues",
            title: colleagues === "after" ? "Colleagues now" : "Colleagues with the same",
            quiet: true,
            render: (it: TieView) => (it.sort === "access" ? shareInWords(it.colleagues) : ""),
          },
        ]
      : []),
    ...(colleagues === "after"
      ? [
          {
            key: "later",
            title: "New colleagues",
            quiet: true,
            render: (it: TieView) => (it.sort === "access" ? shareInWords(it.later) : ""),
          },
        ]
      : []),
    ...(selection
      ? [
          {
            key: "exception",
            title: "By exception",
            quiet: true,
            render: (it: TieView) => it.exception ?? "",
          },
        ]
      : []),
    ...(becomes
      ? [
          {
            key: "becomes",
            title: "What happens to it",
            width: 300,
            render: (it: TieView) =>
              it.cannot === undefined ? becomes(it) : <span className="note">{it.cannot}</span>,
          },
        ]
      : []),
  ];
  return (
    <DataTable
      label={label}
      rows={ties}
      rowKey={(it) => it.id}
      columns={columns}
      {...(selection && {
        selection: {
          chosen: selection.chosen,
          onChange: selection.onChange,
          name: (it: TieView) => it.text,
        },
      })}
    />
  );
}
