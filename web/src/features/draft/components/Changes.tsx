import { Link } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import { byKind, pageOf } from "../model";
import { useDrop, type DraftView } from "../queries";

/** What the draft changes, by thing, each with its faults and refusals, each removable. */
export function Changes({ draft, readOnly }: { draft: DraftView; readOnly: boolean }) {
  const drop = useDrop(draft.id);
  if (draft.changes.length === 0 && draft.clashes.length === 0) {
    return (
      <div className="empty">
        <p>
          Nothing is in this draft. Whatever you change on any page comes in here, and nothing
          happens until you apply it.
        </p>
      </div>
    );
  }
  return (
    <>
      {drop.isError && <ProblemNote problem={drop.error} />}
      {byKind(draft.changes).map(([kind, changes]) => (
        <section key={kind} className="changes" aria-label={kind}>
          <h3>{kind}</h3>
          <ul>
            {changes.map((change, i) => {
              const page = pageOf(change.kind, change.key);
              const faults = draft.faults.filter(
                (it) => it.kind === change.kind && it.key === change.key,
              );
              return (
                <li key={`${change.key ?? ""}${i}`} className={`change ${change.act}`}>
                  <div>
                    {change.sentences.map((sentence) => (
                      <p key={sentence}>{sentence}</p>
                    ))}
                    {faults.map((fault) => (
                      <p key={fault.what} className="wrong" role="alert">
                        {fault.what}. {fault.next}.
                      </p>
                    ))}
                    {change.refusals.map((refusal) => (
                      <p key={refusal} className="wrong" role="alert">
                        {refusal}
                      </p>
                    ))}
                  </div>
                  {page && change.act !== "removes" && (
                    <Link to={page} className="quiet">
                      open
                    </Link>
                  )}
                  {!readOnly && (
                    <button
                      type="button"
                      className="link"
                      aria-label={`Leave out: ${change.sentences[0] ?? change.name}`}
                      onClick={() => drop.mutate(change)}
                    >
                      leave out
                    </button>
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      ))}
      {draft.faults
        .filter(
          (fault) => !draft.changes.some((it) => it.kind === fault.kind && it.key === fault.key),
        )
        .map((fault) => (
          <p key={fault.what} className="wrong" role="alert">
            {fault.name ? `${fault.name}: ` : ""}
            {fault.what}. {fault.next}.
          </p>
        ))}
      {draft.refusals.map((refusal) => (
        <p key={refusal} className="wrong" role="alert">
          {refusal}
        </p>
      ))}
    </>
  );
}
