import { Button, Space } from "antd";
import { Link } from "react-router";
import { JobProgress } from "@/entities/job/JobProgress";
import { fileOf, isOver, useCancelJob, useJobs, type Job } from "@/entities/job/queries";
import { dateOf } from "@/shared/lib/words";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { YouTabs } from "../components/YouTabs";

/** Where the answer of a job is read; none where it is a file. */
function pageOf(job: Job): string | undefined {
  if (job.kind === "model-import") return "/settings";
  if (job.kind !== "escalation-search") return undefined;
  const of = new URLSearchParams();
  for (const [name, to] of [
    ["permission", "permission"],
    ["resource", "on"],
    ["at", "at"],
    ["changes", "changes"],
  ] as const) {
    const value = job.details[name];
    if (typeof value === "string" || typeof value === "number") of.set(to, `${value}`);
  }
  return `/ask/escalation?${of.toString()}`;
}

/** Searches, imports and exports of the signed-in person: how far they are, and their results. */
export function WorkPage() {
  const jobs = useJobs();
  const forget = useCancelJob();
  if (jobs.isPending) return <Loading what="your long work" />;
  if (jobs.isError) {
    return <ProblemAlert problem={jobs.error} onRetry={() => void jobs.refetch()} />;
  }
  return (
    <>
      <YouTabs active="/you/work" />
      <h1 className="hidden-text">Long work</h1>
      {jobs.data.jobs.length === 0 ? (
        <EmptyState>
          No long work. Searches, imports and exports that take a while are listed here; results are
          kept for a day.
        </EmptyState>
      ) : (
        <ul className="plain-list">
          {jobs.data.jobs.map((it) => {
            const page = pageOf(it);
            return (
              <li key={it.id}>
                <h2>
                  {page ? <Link to={page}>{it.title}</Link> : it.title}{" "}
                  <small>begun {dateOf(it.begun)}</small>
                </h2>
                <JobProgress job={it} label={it.title} />
                {isOver(it) && (
                  <Space>
                    {it.state === "done" && it.file && (
                      <a href={fileOf(it.id)} download>
                        Download {it.file}
                      </a>
                    )}
                    {it.keptUntil && it.state === "done" && (
                      <span className="note">Kept until {dateOf(it.keptUntil)}.</span>
                    )}
                    <Button
                      size="small"
                      aria-label={`Remove: ${it.title}`}
                      onClick={() => forget.mutate(it.id)}
                    >
                      Remove
                    </Button>
                  </Space>
                )}
              </li>
            );
          })}
        </ul>
      )}
      {forget.isError && <ProblemAlert problem={forget.error} />}
    </>
  );
}
