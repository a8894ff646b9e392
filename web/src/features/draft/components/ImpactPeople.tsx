import { useState } from "react";
import { Link } from "react-router";
import { Mandala } from "@/entities/access/Mandala";
import { questionAbout } from "@/entities/access/model";
import { RightDifferences } from "@/entities/access/RightDifferences";
import { usePersonImpact, type DraftView, type ImpactView } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { balance } from "../model";
import styles from "./ImpactPeople.module.css";

interface Props {
  impact: ImpactView;
  draft: DraftView;
}

/** The people whose access a draft changes; each opens to their rights before and after. */
export function ImpactPeople({ impact, draft }: Props) {
  const [person, setPerson] = useState<string>();
  return (
    <>
      <ul className="plain-list">
        {impact.people.map((it) => (
          <li key={it.key}>
            <button
              type="button"
              className={styles["person"]}
              aria-expanded={person === it.key}
              onClick={() => setPerson(person === it.key ? undefined : it.key)}
            >
              <span>
                <strong>{it.name}</strong>
                {it.author && <em> you</em>}{" "}
                <small>{[it.title, it.account].filter(Boolean).join(", ")}</small>
              </span>
              <span className="quiet">
                {it.lockedOut ? "loses all access" : balance(it.gained, it.lost, it.rerouted)}
              </span>
            </button>
            {person === it.key && <PersonImpact draft={draft} person={it.key} />}
          </li>
        ))}
      </ul>
      {impact.more > 0 && (
        <p className="note">and {count(impact.more, "more person", "more people")}</p>
      )}
    </>
  );
}

/** One person before and after: both mandalas, each right that differs, and its routes. */
function PersonImpact({ draft, person }: { draft: DraftView; person: string }) {
  const impact = usePersonImpact(draft.id, person, draft.content);
  if (impact.isPending) return <Loading what="their rights" rows={3} />;
  if (impact.isError) return <ProblemAlert problem={impact.error} />;
  const it = impact.data;
  const now = questionAbout(person);
  return (
    <div className={styles["rights"]}>
      <Link to={`/people/${encodeURIComponent(person)}`}>Open {it.person.name}</Link>
      <div className={styles["figures"]}>
        {it.before && (
          <figure>
            <Mandala
              figure={it.before}
              size={150}
              edges={{ sunken: it.less }}
              label={`${it.person.name} before`}
            />
            <figcaption>before · {count(it.before.rights, "right")}</figcaption>
          </figure>
        )}
        {it.after && (
          <figure>
            <Mandala
              figure={it.after}
              size={150}
              edges={{ raised: it.more }}
              label={`${it.person.name} after`}
            />
            <figcaption>after · {count(it.after.rights, "right")}</figcaption>
          </figure>
        )}
      </div>
      <RightDifferences
        lines={it.lines}
        words={{ gained: "gained on", lost: "lost on" }}
        question={(each) => (each.gained > 0 ? { ...now, draft: draft.id } : now)}
      />
    </div>
  );
}
