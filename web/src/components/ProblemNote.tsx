import { Problem } from "../api/client";

/** A refusal in the person's words: what is wrong, where, and what to do. */
export function ProblemNote({ problem, onRetry }: { problem: Error; onRetry?: () => void }) {
  const known = problem instanceof Problem ? problem : undefined;
  return (
    <div className="problem" role="alert">
      <strong>{known?.title ?? "Something went wrong on this page"}</strong>
      <p>{known?.detail ?? problem.message}</p>
      {known && known.faults.length > 0 && (
        <ul>
          {known.faults.map((fault, i) => (
            <li key={i}>
              <code>{fault.path}</code> {fault.what}. {fault.next}.
            </li>
          ))}
        </ul>
      )}
      {onRetry && (
        <button type="button" className="link" onClick={onRetry}>
          Try again
        </button>
      )}
    </div>
  );
}
