import { useAccounts } from "@/entities/account/queries";
import { dateOf } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { useRevisions } from "../queries";
import styles from "./RevisionList.module.css";

interface Props {
  chosen: string | null;
  onChoose: (revision: string) => void;
}

/** The last revisions; choosing one filters the trail by it. */
export function RevisionList({ chosen, onChoose }: Props) {
  const accounts = useAccounts();
  const readable = accounts.data?.accounts.some((it) => it.readable) ?? false;
  const revisions = useRevisions(readable);
  if (!readable) return null;
  return (
    <aside aria-label="Revisions">
      <h2 className="part">
        <Term word="revision">Revisions</Term>
      </h2>
      {revisions.isError && <ProblemAlert problem={revisions.error} />}
      {revisions.isPending && <Loading what="revisions" />}
      <ol className={styles["revisions"]}>
        {(revisions.data ?? []).map((it) => {
          const key = String(it.number);
          return (
            <li key={it.number}>
              <button
                type="button"
                aria-pressed={chosen === key}
                onClick={() => onChoose(chosen === key ? "" : key)}
              >
                <strong>{it.number}</strong> {it.title}
                <small>
                  {it.author ?? "Mandala"}, {dateOf(it.at)}
                  {it.takesBack !== undefined && `, reverts ${it.takesBack}`}
                </small>
              </button>
            </li>
          );
        })}
      </ol>
    </aside>
  );
}
