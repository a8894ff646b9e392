import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { PAST } from "./model";

export type Reviewed = Schemas["ReviewedItem"];

/** Decisions of rounds: what was asked, who decided what, and what became of it. */
export function ReviewedTable({ rows }: { rows: Reviewed[] }) {
  return (
    <DataTable<Reviewed>
      label="Decisions"
      rows={rows}
      rowKey={(it) => `${it.round}/${it.item}`}
      columns={COLUMNS}
    />
  );
}

const COLUMNS = [
  { key: "what", title: "what", card: "title" as const, render: (it: Reviewed) => it.what },
  {
    key: "verdict",
    title: "decision",
    width: 110,
    render: (it: Reviewed) =>
      it.verdict ? PAST[it.verdict] : it.state === "gone" ? "" : "none yet",
  },
  {
    key: "by",
    title: "by",
    width: 160,
    render: (it: Reviewed) =>
      it.byName ?? (it.at ? "the round's rule" : (it.reviewerName ?? "no one")),
  },
  {
    key: "at",
    title: "when",
    width: 150,
    render: (it: Reviewed) => (it.at ? dateOf(it.at) : ""),
  },
  { key: "reason", title: "reason", render: (it: Reviewed) => it.reason ?? "" },
  {
    key: "outcome",
    title: "what became of it",
    render: (it: Reviewed) => (
      <>
        {it.verdict || it.state === "gone" ? it.outcome : "Waits for a decision"}
        {it.revision !== undefined && (
          <>
            , <Link to={`/trail?revision=${it.revision}`}>revision {it.revision}</Link>
          </>
        )}
        {it.remark && <div className="note">{it.remark}</div>}
      </>
    ),
  },
  {
    key: "round",
    title: "review",
    render: (it: Reviewed) => (
      <>
        {it.roundState === "closed" ? (
          <Link to={`/reviews/${it.round}/report`}>{it.title}</Link>
        ) : it.runs ? (
          <Link to={`/reviews/${it.round}/round`}>{it.title}</Link>
        ) : (
          it.title
        )}
        <div className="note">{it.signed ? "signed" : it.roundState}</div>
      </>
    ),
  },
];
