import { useState } from "react";
import { Button } from "antd";
import { useBeginTrim, useTrim } from "@/entities/access/excess";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOrdered, isOver, useJob, useJobs } from "@/entities/job/queries";
import { dateOf } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { TrimChoice } from "./TrimChoice";
import { TrimOptions } from "./TrimOptions";
import { USUAL, type Options } from "./trim";

interface Props {
  /** Whose access, by reference. */
  of: string[];
  name: string;
  days: number | undefined;
}

/** Ways to trim the access of some people: found by a job, chosen here, and put into a draft. */
export default function TrimProposals({ of, name, days }: Props) {
  const [options, setOptions] = useState<Options>(USUAL);
  const jobs = useJobs();
  const begin = useBeginTrim();
  const order = { of, ...(days && { days }), ...options };
  const known = jobs.data?.jobs.find((it) => isOrdered(it, "trim", { days: undefined, ...order }));
  const job = useJob(known?.id).data ?? known;
  const found = useTrim(job?.state === "done" ? job.id : undefined);
  if (jobs.isPending) return <Loading what="proposals" />;
  return (
    <section aria-label="Trim access">
      <h2 className="part">Trim the access of {name}</h2>
      <TrimOptions options={options} onChange={setOptions} />
      {(!job || isOver(job)) && (
        <p>
          <Button
            size="small"
            type={job ? "default" : "primary"}
            loading={begin.isPending}
            onClick={() => begin.mutate(order)}
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
      {found.data && job && (
        <TrimChoice
          key={job.id}
          trim={found.data}
          job={job.id}
          onKeep={(thing) =>
            setOptions({ ...options, untouched: [...options.untouched, thing].sort() })
          }
        />
      )}
    </section>
  );
}
