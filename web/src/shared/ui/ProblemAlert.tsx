import { Alert, Button } from "antd";
import { Problem } from "@/shared/api/client";
import { Cancelled } from "@/shared/lib/cancelled";

interface Props {
  problem: Error;
  onRetry?: () => void;
}

/** Whether the same call may succeed later: not where something is missing or not allowed. */
function mayPass({ status }: Problem): boolean {
  return ![400, 403, 404].includes(status);
}

/** What went wrong: what it is, where, and the next step. */
export function ProblemAlert({ problem, onRetry }: Props) {
  if (problem instanceof Cancelled) return null;
  const known = problem instanceof Problem ? problem : undefined;
  return (
    <Alert
      className="problem"
      type="error"
      showIcon={false}
      role="alert"
      title={known?.title ?? "This page failed"}
      description={
        <>
          {known?.detail ?? `${problem.message}. Reload the page.`}
          {known && known.faults.length > 0 && (
            <ul>
              {known.faults.map((fault, i) => (
                <li key={i}>
                  <code>{fault.path}</code> {fault.what}. {fault.next}.
                </li>
              ))}
            </ul>
          )}
        </>
      }
      action={
        onRetry &&
        (!known || mayPass(known)) && (
          <Button size="small" onClick={onRetry}>
            Try again
          </Button>
        )
      }
    />
  );
}
