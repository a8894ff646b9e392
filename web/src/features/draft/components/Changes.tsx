import { Link } from "react-router";
import { useDrop, type ChangeView, type DraftView } from "@/entities/draft/queries";
import { EmptyState } from "@/shared/ui/EmptyState";
import { pageOf } from "@/entities/thing/pages";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { byKind } from "../model";
import styles from "./Changes.module.css";

interface Props {
  draft: DraftView;
  readOnly: boolean;
}

/** What a draft changes, by kind of thing, each with its errors and refusals, each removable. */
export function Changes({ draft, readOnly }: Props) {
  const drop = useDrop(draft.id);
  if (draft.changes.length === 0 && draft.clashes.length === 0) {
    return (
      <EmptyState>
        This draft is empty. Changes you make on any page are added here; they take effect when you
        apply the draft.
      </EmptyState>
    );
  }
  const elsewhere = draft.faults.filter(
    (fault) => !draft.changes.some((it) => it.kind === fault.kind && it.key === fault.key),
  );
  return (
    <>
      {drop.isError && <ProblemAlert problem={drop.error} />}
      {byKind(draft.changes).map(([kind, changes]) => (
        <section key={kind} aria-label={kind}>
          <h3>{kind}</h3>
          <ul className={styles["changes"]}>
            {changes.map((change, i) => (
              <Change
                key={`${change.key ?? ""}${i}`}
                change={change}
                faults={draft.faults.filter(
                  (it) => it.kind === change.kind && it.key === change.key,
                )}
                {...(!readOnly && { onRemove: () => drop.mutate(change) })}
              />
            ))}
          </ul>
        </section>
      ))}
      {elsewhere.map((fault) => (
        <p key={fault.what} className="warning" role="alert">
          {fault.name ? `${fault.name}: ` : ""}
          {fault.what}. {fault.next}.
        </p>
      ))}
      {draft.refusals.map((refusal) => (
        <p key={refusal} className="warning" role="alert">
          {refusal}
        </p>
      ))}
    </>
  );
}

interface ChangeProps {
  change: ChangeView;
  faults: DraftView["faults"];
  onRemove?: () => void;
}

function Change({ change, faults, onRemove }: ChangeProps) {
  const page = pageOf(change.kind, change.key);
  return (
    <li className={change.act}>
      <div>
        {change.sentences.map((sentence) => (
          <p key={sentence}>{sentence}</p>
        ))}
        {faults.map((fault) => (
          <p key={fault.what} className="warning" role="alert">
            {fault.what}. {fault.next}.
          </p>
        ))}
        {change.refusals.map((refusal) => (
          <p key={refusal} className="warning" role="alert">
            {refusal}
          </p>
        ))}
      </div>
      {page && change.act !== "removes" && (
        <Link to={page} className="quiet" aria-label={`Open ${change.name}`}>
          Open
        </Link>
      )}
      {onRemove && (
        <LinkButton
          aria-label={`Remove from draft: ${change.sentences[0] ?? change.name}`}
          onClick={onRemove}
        >
          Remove from draft
        </LinkButton>
      )}
    </li>
  );
}
