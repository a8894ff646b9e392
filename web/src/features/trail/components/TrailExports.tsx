import { Button, Space } from "antd";
import { JobProgress } from "@/entities/job/JobProgress";
import { fileOf, isOver, useJob, useJobs } from "@/entities/job/queries";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useExport, type Filter } from "../queries";

/** Exports every matching record in the background; the last export is found again here. */
export function TrailExports({ filter }: { filter: Filter }) {
  const begin = useExport();
  const jobs = useJobs();
  const last = jobs.data?.jobs.find((it) => it.kind === "trail-export");
  const it = useJob(begin.data?.id ?? last?.id).data;
  return (
    <Space wrap>
      {["csv", "xlsx"].map((format) => (
        <Button
          key={format}
          size="small"
          loading={begin.isPending}
          disabled={it !== undefined && !isOver(it)}
          onClick={() => begin.mutate({ format, filter })}
        >
          Export all as {format.toUpperCase()}
        </Button>
      ))}
      {begin.isError && <ProblemAlert problem={begin.error} />}
      {it && <JobProgress job={it} label="Export" />}
      {it?.state === "done" && (
        <a href={fileOf(it.id)} download>
          Download {count(it.done, "record")}
        </a>
      )}
    </Space>
  );
}
