import { Button, Progress, Space } from "antd";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useCancelExport, useExport, useExportState, type Filter } from "../queries";

/** Exports every matching record in the background. */
export function TrailExports({ filter }: { filter: Filter }) {
  const begin = useExport();
  const cancel = useCancelExport();
  const state = useExportState(begin.data?.id);
  const it = state.data;
  return (
    <Space wrap>
      {["csv", "xlsx"].map((format) => (
        <Button
          key={format}
          size="small"
          loading={begin.isPending}
          onClick={() => begin.mutate({ format, filter })}
        >
          Export all as {format.toUpperCase()}
        </Button>
      ))}
      {begin.isError && <ProblemAlert problem={begin.error} />}
      {it?.state === "running" && (
        <>
          <Progress
            aria-label="Export"
            size="small"
            style={{ width: 120 }}
            percent={it.of === 0 ? 0 : Math.round((100 * it.done) / it.of)}
          />
          <Button size="small" onClick={() => cancel.mutate(it.id)}>
            Cancel
          </Button>
        </>
      )}
      {it?.state === "done" && (
        <a href={`/api/trail/exports/${it.id}/file`} download>
          Download {count(it.done, "record")}
        </a>
      )}
      {it?.state === "failed" && (
        <span className="warning" role="alert">
          The export failed. Try again; if it keeps failing, ask your administrator (reference{" "}
          {it.id.slice(0, 8)}).
        </span>
      )}
    </Space>
  );
}
