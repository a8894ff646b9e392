import { lazy, Suspense, useEffect, useState } from "react";
import { Alert, Button, Descriptions } from "antd";
import { useSearchParams } from "react-router";
import { percent, useBeginStudy, useStudy, type Study } from "@/entities/access/excess";
import { AnswerExports } from "@/entities/access/AnswerExports";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOrdered, useJob, useJobs, type Job } from "@/entities/job/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { count, dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { columnsFor } from "../components/studyColumns";
import { UseWindow } from "../components/UseWindow";

const TrimProposals = lazy(() => import("../components/TrimProposals"));

/** What several people use of their access: members of a group, holders of a role, or others. */
export function UsePage() {
  const [params] = useSearchParams();
  const of = params.getAll("of");
  if (of.length === 0) {
    return (
      <EmptyState title="Nobody is chosen">
        Open a group, a role or an account and follow “What they use”, or select people in the list.
      </EmptyState>
    );
  }
  return <Use key={of.join()} of={of} />;
}

function Use({ of }: { of: string[] }) {
  const [params] = useAddress();
  const days = Number(params.get("days")) || undefined;
  const jobs = useJobs();
  const begin = useBeginStudy();
  const known = jobs.data?.jobs.find((it) => isOrdered(it, "use-of-access", { of, days }));
  const job = useJob(known?.id).data ?? known;
  const study = useStudy(job?.state === "done" ? job.id : undefined);
  const first = jobs.isSuccess && !known && begin.isIdle;
  useEffect(() => {
    if (first) begin.mutate({ of, ...(days && { days }) });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- begun once where nothing is known
  }, [first]);
  if (jobs.isPending) return <Loading what="what they use" />;
  return (
    <>
      {!study.data && <PageHead title="Use of access" />}
      {begin.isError && <ProblemAlert problem={begin.error} />}
      {job && job.state !== "done" && <JobProgress job={job} label={job.title} />}
      {study.isError && <ProblemAlert problem={study.error} />}
      {study.data && job && (
        <Found
          study={study.data}
          job={job}
          of={of}
          days={days}
          busy={begin.isPending}
          onAgain={(wanted) => begin.mutate({ of, ...(wanted && { days: wanted }) })}
        />
      )}
    </>
  );
}

interface FoundProps {
  study: Study;
  job: Job;
  of: string[];
  days: number | undefined;
  busy: boolean;
  onAgain: (days: number | undefined) => void;
}

function Found({ study, job, of, days, busy, onAgain }: FoundProps) {
  const [params, set] = useAddress();
  const [trims, setTrims] = useState(params.get("trim") === "1");
  const { total } = study;
  return (
    <>
      <PageHead
        title={`Use of access: ${study.name}`}
        facts={[
          count(study.people, "person", "people"),
          study.part && "people whose whole access you can't see are left out",
          job.ended && `worked out on ${dateOf(job.ended)}`,
        ]}
        actions={
          <Button size="small" loading={busy} onClick={() => onAgain(days)}>
            Work it out again
          </Button>
        }
      />
      <UseWindow
        days={study.days}
        first={study.first}
        onChange={(value) => {
          set({ days: `${value}` });
          onAgain(value);
        }}
      />
      {study.historyShort && (
        <Alert
          type="info"
          showIcon
          title="The model's history is shorter than this window. Access from before it counts as old."
        />
      )}
      <Descriptions
        style={{ marginBlock: 10 }}
        column={{ xs: 1, sm: 2, md: 4 }}
        size="small"
        items={[
          { key: "rights", label: "Rights", children: total.rights.toLocaleString("en") },
          {
            key: "unused",
            label: "Not used",
            children: `${total.unused.toLocaleString("en")} · ${percent(total.unused, total.rights)}`,
          },
          { key: "exposure", label: "Exposure", children: total.exposure.toLocaleString("en") },
          {
            key: "excess",
            label: "Unused exposure",
            children: `${total.unusedExposure.toLocaleString("en")} · ${percent(total.unusedExposure, total.exposure)}`,
          },
        ]}
      />
      {!trims && total.unused > 0 && (
        <p>
          <Button type="primary" onClick={() => setTrims(true)}>
            Trim access
          </Button>
        </p>
      )}
      {trims && (
        <Suspense fallback={<Loading what="proposals" />}>
          <TrimProposals of={of} name={study.name} days={days} />
        </Suspense>
      )}
      <h2 className="part">One by one</h2>
      <DataTable
        label="Use of access"
        rows={study.rows}
        columns={columnsFor(study.days)}
        rowKey={(row) => row.key ?? "anonymous"}
        tools="use"
        exported
      />
      {study.people > study.rows.length && (
        <p className="note">
          These are the {study.rows.length.toLocaleString("en")} with the highest unused exposure.
        </p>
      )}
      <AnswerExports address={`/api/jobs/${job.id}/answer`} />
    </>
  );
}
