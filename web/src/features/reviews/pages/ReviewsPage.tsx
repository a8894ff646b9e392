import { Button, Progress } from "antd";
import { Link, useNavigate } from "react-router";
import { count, dayOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { EventRuleList } from "../components/EventRuleList";
import { contentsInWords, RISK_WORDS } from "../model";
import { useRounds, type Round } from "../queries";
import styles from "./ReviewsPage.module.css";

const STATES: Record<Round["state"], string> = {
  planned: "planned",
  making: "being made",
  open: "open",
  closed: "closed",
  cancelled: "cancelled",
};

/** What waits for one's decision, and the rounds that one runs. */
export function ReviewsPage() {
  const rounds = useRounds();
  const navigate = useNavigate();
  if (rounds.isPending) return <Loading what="the reviews" />;
  if (rounds.isError) {
    return <ProblemAlert problem={rounds.error} onRetry={() => void rounds.refetch()} />;
  }
  const { mine, runs, accounts, reads, audits } = rounds.data;
  const runsAny = accounts.length > 0;
  return (
    <>
      <PageHead
        title="Reviews"
        actions={
          <>
            {reads && <Link to="/reviews/reviewed">Was somebody reviewed?</Link>}
            {runsAny && (
              <Button type="primary" onClick={() => void navigate("/reviews/new")}>
                New review
              </Button>
            )}
          </>
        }
      />
      <section aria-label="Waiting for you">
        <h2 className="part">Waiting for you</h2>
        {mine.length === 0 && (
          <p className="note">Nothing waits for your decision. You get a notice when it does.</p>
        )}
        <ul className={styles["mine"]}>
          {mine.map((it) => (
            <li key={it.number}>
              <Link to={`/reviews/${it.number}`}>{it.title}</Link>
              <span className="note">
                {it.decided === it.items
                  ? "all decided"
                  : `${it.items - it.decided} of ${count(it.items, "decision")} left`}
                {" · "}ends {dayOf(it.ends)}
              </span>
              <Progress
                percent={Math.round((100 * it.decided) / Math.max(1, it.items))}
                size="small"
                aria-label={`Decided of ${it.title}`}
              />
            </li>
          ))}
        </ul>
      </section>
      {runsAny && (
        <section aria-label="Rounds">
          <h2 className="part">Rounds</h2>
          {runs.length === 0 ? (
            <EmptyState title="No reviews yet">
              A review asks managers and owners what stays. Begin one from a usual template.
            </EmptyState>
          ) : (
            <DataTable<Round>
              label="Rounds"
              rows={runs}
              rowKey={(it) => String(it.number)}
              columns={columns}
            />
          )}
        </section>
      )}
      {audits.length > 0 && (
        <section aria-label="Rounds of others">
          <h2 className="part">{runsAny ? "Rounds of others" : "Rounds"}</h2>
          <DataTable<Round>
            label="Rounds of others"
            rows={audits}
            rowKey={(it) => String(it.number)}
            columns={[AUDITED, ...columns.slice(1)]}
          />
        </section>
      )}
      {runsAny && <EventRuleList />}
    </>
  );
}

const AUDITED = {
  key: "title",
  title: "round",
  render: (it: Round) => (
    <>
      <Link to={`/reviews/${it.number}/report`}>{it.title}</Link>
      <div className="note">
        {RISK_WORDS[it.order.risk]} of {contentsInWords(it.order.contents)}
      </div>
    </>
  ),
};

const columns = [
  {
    key: "title",
    title: "round",
    render: (it: Round) => (
      <>
        <Link to={`/reviews/${it.number}/round`}>{it.title}</Link>
        <div className="note">
          {RISK_WORDS[it.order.risk]} of {contentsInWords(it.order.contents)}
        </div>
      </>
    ),
  },
  {
    key: "state",
    title: "state",
    width: 130,
    render: (it: Round) =>
      it.heldUp ? "waits for its owner" : it.late ? "closing" : STATES[it.state],
  },
  {
    key: "when",
    title: "from, to",
    width: 210,
    render: (it: Round) => `${dayOf(it.begins)} – ${dayOf(it.ends)}`,
  },
  {
    key: "decided",
    title: "decided",
    width: 130,
    render: (it: Round) =>
      it.items === 0
        ? ""
        : `${it.finished.toLocaleString("en")} of ${it.items.toLocaleString("en")}`,
  },
  { key: "owner", title: "run by", width: 150, render: (it: Round) => it.ownerName },
];
