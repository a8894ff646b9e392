import { Button } from "antd";
import type { ReactNode } from "react";
import type { EscalationAsked } from "@/entities/access/model";
import {
  useBeginEscalators,
  useEscalators,
  type EscalatorsAnswer,
} from "@/entities/access/queries";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOver, useJob, useJobs, type Job } from "@/entities/job/queries";
import { dateOf } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

interface Props {
  asked: EscalationAsked;
  /** What the button says that begins the search. */
  begin: string;
  children: (answer: EscalatorsAnswer, job: string) => ReactNode;
}

function asks(job: Job, asked: EscalationAsked): boolean {
  const ordered = (name: string) => {
    const value = job.details[name];
    return typeof value === "string" || typeof value === "number" ? `${value}` : "";
  };
  return (
    job.kind === "escalation-search" &&
    ordered("permission") === asked.permission &&
    ordered("resource") === asked.on &&
    ordered("at") === (asked.at ?? "") &&
    ordered("changes") === (asked.changes ?? "")
  );
}

/** Searches everyone who could get an access: begun here, found again when one comes back. */
export function EscalatorSearch({ asked, begin, children }: Props) {
  const jobs = useJobs();
  const start = useBeginEscalators();
  const known = jobs.data?.jobs.find((it) => asks(it, asked) && it.state !== "cancelled");
  const job = useJob(known?.id).data ?? known;
  const answer = useEscalators(job?.state === "done" ? job.id : undefined);
  const again = !job || isOver(job);
  if (jobs.isPending) return <Loading what="your searches" />;
  return (
    <>
      {again && (
        <p>
          <Button
            type={job ? "default" : "primary"}
            size={job ? "small" : "middle"}
            loading={start.isPending}
            onClick={() => start.mutate(asked)}
          >
            {job ? "Search again" : begin}
          </Button>
          {job?.state === "done" && job.ended && (
            <span className="note"> Searched on {dateOf(job.ended)}.</span>
          )}
        </p>
      )}
      {start.isError && <ProblemAlert problem={start.error} />}
      {job && <JobProgress job={job} label={job.title} />}
      {answer.isError && <ProblemAlert problem={answer.error} />}
      {answer.data && job && children(answer.data, job.id)}
    </>
  );
}
