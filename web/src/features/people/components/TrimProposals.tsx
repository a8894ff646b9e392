import { useState } from "react";
import { Button, Checkbox, Radio } from "antd";
import { Link } from "react-router";
import { useBeginTrim, useTrim, type Trim, type TrimPoint } from "@/entities/access/excess";
import { useTakeTrim } from "@/entities/draft/queries";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOver, useJob, useJobs, type Job } from "@/entities/job/queries";
import { count, dateOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./UseOfAccess.module.css";

interface Props {
  who: { key: string; name: string };
  days: number | undefined;
}

const NAMES: Record<string, string> = {
  0: "Only remove what nobody uses",
  0.5: "Narrow what is simple to narrow",
  1: "Keep exactly what is needed",
};

function trims(job: Job, { who, days }: Props, others: boolean): boolean {
  return (
    job.kind === "trim" &&
    job.details["principal"] === who.key &&
    (job.details["days"] ?? undefined) === days &&
    job.details["others"] === others
  );
}

const number = (it: number) => it.toLocaleString("en");

/** Ways to trim somebody's access: found by a job, chosen here, and put into a draft. */
export function TrimProposals(props: Props) {
  const [others, setOthers] = useState(false);
  const jobs = useJobs();
  const begin = useBeginTrim();
  const known = jobs.data?.jobs.find((it) => trims(it, props, others) && it.state !== "cancelled");
  const job = useJob(known?.id).data ?? known;
  const found = useTrim(job?.state === "done" ? job.id : undefined);
  if (jobs.isPending) return <Loading what="proposals" />;
  const { who, days } = props;
  return (
    <section aria-label="Trim access">
      <h2 className="part">Trim the access of {who.name}</h2>
      <p>
        <Checkbox checked={others} onChange={(event) => setOthers(event.target.checked)}>
          Also change what they get together with others
        </Checkbox>
      </p>
      {(!job || isOver(job)) && (
        <p>
          <Button
            size="small"
            type={job ? "default" : "primary"}
            loading={begin.isPending}
            onClick={() => begin.mutate({ principal: who.key, days, others })}
          >
            {job ? "Look again" : "Look for what can go"}
          </Button>
          <span className="note">
            {job?.state === "done" && job.ended
              ? ` Found on ${dateOf(job.ended)}.`
              : " Finds what can be removed so that everyone keeps what they use, and proves it."}
          </span>
        </p>
      )}
      {begin.isError && <ProblemAlert problem={begin.error} />}
      {job && <JobProgress job={job} label={job.title} />}
      {found.isError && <ProblemAlert problem={found.error} />}
      {found.data && job && <Choose key={job.id} trim={found.data} job={job.id} />}
    </section>
  );
}

function Choose({ trim, job }: { trim: Trim; job: string }) {
  const useful = trim.points.filter((it) => it.steps.length > 0);
  const [tight, setTight] = useState(useful[0]?.tight);
  const take = useTakeTrim(job);
  const chosen = trim.points.find((it) => it.tight === tight);
  if (useful.length === 0 || !chosen) {
    return (
      <EmptyState title="Nothing can go">
        What they don't use comes with what somebody needs, or you can't change what grants it.
      </EmptyState>
    );
  }
  const columns: Column<TrimPoint>[] = [
    {
      key: "name",
      title: "Proposal",
      render: (row) => (
        <Radio
          name="trim"
          checked={row.tight === tight}
          disabled={row.steps.length === 0}
          onChange={() => setTight(row.tight)}
        >
          {NAMES[row.tight] ?? `${row.tight}`}
        </Radio>
      ),
      card: "title",
    },
    {
      key: "own",
      title: "Their exposure",
      numeric: true,
      render: (row) => `${number(trim.own)} → ${number(row.own)}`,
    },
    {
      key: "all",
      title: "Removed from everyone",
      numeric: true,
      render: (row) => number(trim.before - row.after),
    },
    { key: "steps", title: "Changes", numeric: true, render: (row) => row.steps.length, width: 90 },
    {
      key: "added",
      title: "Assignments",
      numeric: true,
      render: (row) => (row.added > 0 ? `+${row.added}` : `${row.added}`.replace("-", "−")),
      width: 110,
    },
  ];
  return (
    <>
      <DataTable
        label="Proposals"
        rows={trim.points}
        columns={columns}
        rowKey={(row) => `${row.tight}`}
        tools={undefined}
      />
      {!trim.narrows && (
        <p className="note">
          Assignments are not narrowed: you need “Define rights” on the accounts of those who hold
          them.
        </p>
      )}
      <ol className={styles["steps"]} aria-label="Changes">
        {chosen.steps.map((step, i) => (
          <li key={i}>
            {step.said.join("; ")}. <span className="note">Safe because {step.why}.</span>
          </li>
        ))}
      </ol>
      {take.isError && <ProblemAlert problem={take.error} />}
      {take.data ? (
        <p>
          The changes are in a new draft.{" "}
          <Link to={`/drafts/${take.data.draft}`}>Open the draft</Link>
        </p>
      ) : (
        <Button type="primary" loading={take.isPending} onClick={() => take.mutate(chosen.tight)}>
          Add {count(chosen.steps.length, "change")} to a new draft
        </Button>
      )}
    </>
  );
}
