import { Button, Space } from "antd";
import { Link, useParams } from "react-router";
import { count, dateOf, dayOf } from "@/shared/lib/words";
import { PAST } from "@/entities/decision/model";
import { fileAddress } from "@/shared/lib/fileAddress";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { SignReport } from "../components/SignReport";
import { paceInWords } from "../model";
import { useReport, useReportState, type Reported, type ReportState } from "../queries";

type Item = Reported["items"][number];
type Reviewer = Reported["reviewers"][number];

/** What a round came to, as it was written when it closed; whoever runs it signs it here. */
export function ReportPage() {
  const round = Number(useParams()["round"]);
  const state = useReportState(round);
  const readable = state.data?.readable === true;
  const report = useReport(round, readable);
  if (state.isPending) return <Loading what="the report" />;
  if (state.isError) {
    return <ProblemAlert problem={state.error} onRetry={() => void state.refetch()} />;
  }
  const it = state.data;
  const written = Object.keys(it.hashes).length > 0;
  return (
    <>
      <PageHead
        path={[{ name: "Reviews", to: "/reviews" }, { name: it.title }]}
        title={`Report: ${it.title}`}
        facts={[
          it.signedByName
            ? `signed by ${it.signedByName}, ${dateOf(it.signedAt ?? "")}`
            : written && "not signed yet",
          !written && it.state,
        ]}
        actions={readable && <Files round={round} />}
      />
      {!written && (
        <EmptyState title="No report yet">
          It is written when the round closes: when each decision is in force or answered for.
        </EmptyState>
      )}
      {written && !readable && (
        <EmptyState title="This report names people you can't see">
          Ask whoever runs the round for your part of it.
        </EmptyState>
      )}
      {it.signable && <SignReport round={round} />}
      {readable && report.isPending && <Loading what="the report" rows={8} />}
      {report.isError && <ProblemAlert problem={report.error} />}
      {report.data && <Content report={report.data} />}
      {written && <Hashes state={it} />}
    </>
  );
}

function Files({ round }: { round: number }) {
  const of = (format: string) => fileAddress(`/api/reviews/${round}/report/file`, {}, format);
  return (
    <Space wrap>
      {["pdf", "xlsx", "json"].map((format) => (
        <Button key={format} href={of(format)} download>
          {format.toUpperCase()}
        </Button>
      ))}
    </Space>
  );
}

function Content({ report }: { report: Reported }) {
  const it = report.summary;
  return (
    <>
      <p>
        Asked about {it.what}
        {it.why ? `, because ${it.why}` : ""}, from {dayOf(it.begins)} to {dayOf(it.ends)}, run by{" "}
        {it.owner}. It closed {dateOf(it.closed)}.
      </p>
      <p>
        <strong>
          {it.kept} kept, {it.reduced} reduced, {it.removed} removed
        </strong>{" "}
        of {count(it.items, "item")} of {count(it.people, "person", "people")}
        {it.byRule > 0 && `; nobody decided ${it.byRule}: ${it.rule}`}
        {it.gone > 0 && `; ${it.gone} were gone meanwhile`}. Exposure{" "}
        {it.before.toLocaleString("en")} → {it.after.toLocaleString("en")}.
      </p>
      <h2 className="part">Reviewers</h2>
      <DataTable<Reviewer>
        label="Reviewers"
        rows={report.reviewers}
        rowKey={(row) => row.name}
        columns={REVIEWERS}
      />
      <h2 className="part">Items</h2>
      <DataTable<Item>
        label="Items"
        rows={report.items}
        rowKey={(row) => String(row.number)}
        columns={ITEMS}
        tools="items"
      />
    </>
  );
}

const REVIEWERS = [
  { key: "name", title: "reviewer", render: (it: Reviewer) => it.name },
  ...(["items", "kept", "reduced", "removed"] as const).map((key) => ({
    key,
    title: key,
    numeric: true,
    width: 100,
    render: (it: Reviewer) => it[key],
  })),
  {
    key: "pace",
    title: "between two",
    numeric: true,
    width: 120,
    render: (it: Reviewer) => paceInWords(it.pace),
  },
  {
    key: "controls",
    title: "known wrong kept",
    numeric: true,
    width: 140,
    render: (it: Reviewer) => (it.controls === 0 ? "" : `${it.controlsKept} of ${it.controls}`),
  },
];

const ITEMS = [
  {
    key: "whose",
    title: "whose",
    width: 160,
    card: "title" as const,
    render: (it: Item) => it.whoseName,
    order: (it: Item) => it.whoseName,
  },
  {
    key: "what",
    title: "what",
    render: (it: Item) => (it.control ? `${it.what} (known wrong)` : it.what),
    order: (it: Item) => it.what,
  },
  {
    key: "verdict",
    title: "decision",
    width: 110,
    render: (it: Item) => (it.verdict ? PAST[it.verdict as keyof typeof PAST] : "none"),
    order: (it: Item) => it.verdict ?? "",
  },
  {
    key: "by",
    title: "by",
    width: 150,
    render: (it: Item) => it.decidedBy ?? "the round's rule",
    order: (it: Item) => it.decidedBy ?? "",
  },
  { key: "reason", title: "reason", render: (it: Item) => it.reason ?? "" },
  {
    key: "outcome",
    title: "what became of it",
    width: 190,
    render: (it: Item) => (
      <>
        {it.outcome}
        {it.revision !== undefined && (
          <>
            , <Link to={`/trail?revision=${it.revision}`}>revision {it.revision}</Link>
          </>
        )}
        {it.remark && <div className="note">{it.remark}</div>}
      </>
    ),
    order: (it: Item) => it.outcome,
  },
];

function Hashes({ state }: { state: ReportState }) {
  return (
    <details>
      <summary>SHA-256 of its files, as the trail has them</summary>
      <dl>
        {Object.entries(state.hashes).map(([form, hash]) => (
          <div key={form}>
            <dt>{form.toUpperCase()}</dt>
            <dd>
              <code style={{ overflowWrap: "anywhere" }}>{hash}</code>
            </dd>
          </div>
        ))}
      </dl>
      <p className="note">./mandala verify-report holds a file to them.</p>
    </details>
  );
}
