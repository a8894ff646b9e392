import { useState } from "react";
import { Button, Checkbox } from "antd";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOrdered, isOver, useJob, useJobs } from "@/entities/job/queries";
import { dateOf } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useBeginTidy, useTidying } from "../tidy";
import { TidyProposals } from "./TidyProposals";
import styles from "./Tidy.module.css";

/** Makes rights simpler while everyone's access stays the same: looks for what can go. */
export default function Tidy() {
  const [roles, setRoles] = useState(false);
  const jobs = useJobs();
  const begin = useBeginTidy();
  const known = jobs.data?.jobs.find((it) => isOrdered(it, "tidy", { roles }));
  const job = useJob(known?.id).data ?? known;
  const found = useTidying(job?.state === "done" ? job.id : undefined);
  if (jobs.isPending) return <Loading what="proposals" />;
  return (
    <section aria-label="Tidy">
      <p>
        Finds roles, sets, members and assignments that can go while everyone keeps exactly the
        access they have, now and later.
      </p>
      <p className={styles["begin"]}>
        <Button
          type={job?.state === "done" ? "default" : "primary"}
          loading={begin.isPending}
          disabled={job !== undefined && !isOver(job)}
          onClick={() => begin.mutate({ roles })}
        >
          {job ? "Look again" : "Look for proposals"}
        </Button>
        <Checkbox checked={roles} onChange={(event) => setRoles(event.target.checked)}>
          Also combine assignments into roles and groups
        </Checkbox>
        {job?.state === "done" && job.ended && (
          <span className="note">Found on {dateOf(job.ended)}.</span>
        )}
      </p>
      {begin.isError && <ProblemAlert problem={begin.error} />}
      {job && job.state !== "done" && <JobProgress job={job} label={job.title} />}
      {found.isError && <ProblemAlert problem={found.error} />}
      {found.data && job && <TidyProposals key={job.id} job={job.id} tidying={found.data} />}
    </section>
  );
}
