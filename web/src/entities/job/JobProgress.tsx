import { Alert, Button, Progress, Space } from "antd";
import { isOver, useCancelJob, type Job } from "./queries";

/** How far a job is, with a way to cancel it; why it has no result, once it is over. */
export function JobProgress({ job, label }: { job: Job; label: string }) {
  const cancel = useCancelJob();
  if (!isOver(job)) {
    const percent = job.total ? Math.round((100 * job.done) / job.total) : 0;
    return (
      <Space wrap role="status">
        {job.state === "waiting" ? "Waiting for its turn." : "Running."}
        <Progress aria-label={label} size="small" style={{ width: 160 }} percent={percent} />
        <Button
          size="small"
          loading={cancel.isPending}
          aria-label={`Cancel: ${label}`}
          onClick={() => cancel.mutate(job.id)}
        >
          Cancel
        </Button>
        <span className="note">You can leave this page; the result is kept for a day.</span>
      </Space>
    );
  }
  if (job.state === "failed") {
    return <Alert type="error" showIcon title={job.fault ?? "It failed. Start it again."} />;
  }
  return job.state === "cancelled" ? <span className="note">Cancelled.</span> : null;
}
