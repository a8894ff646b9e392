import { Button } from "antd";
import { Link, useParams } from "react-router";
import { nameOf } from "@/entities/draft/names";
import { useDraft, useImpact, usePersonImpact, type DraftView } from "@/entities/draft/queries";
import { count, dateOf } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Explanation } from "../components/Explanation";
import { byKind } from "../model";
import styles from "./PrintPage.module.css";

/** People listed one by one on paper. */
const SHOWN = 40;

/** A whole draft on one page, to read or print before it is applied. */
export function PrintPage() {
  const { id = "" } = useParams();
  const draft = useDraft(id);
  if (draft.isPending) return <Loading what="the draft" />;
  if (draft.isError) return <ProblemAlert problem={draft.error} />;
  return <Whole draft={draft.data} />;
}

function Whole({ draft }: { draft: DraftView }) {
  return (
    <article className={styles["paper"]}>
      <div className="acts no-print">
        <Link to={`/drafts/${draft.id}`}>Back to the draft</Link>
        <Button size="small" href={`/api/drafts/${draft.id}/paper`} download="draft.pdf">
          Save as PDF
        </Button>
        <Button size="small" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <h1>{nameOf(draft)}</h1>
      <p className="note">
        by {draft.owner.name}, to revision {draft.revision}, content {draft.content.slice(0, 12)}
      </p>
      <Explanation draft={draft} readOnly />
      {draft.approvals
        .filter((it) => it.counts)
        .map((it) => (
          <p key={it.who.key}>
            Approved by {it.who.name}, {dateOf(it.at)}
          </p>
        ))}
      <h2>Changes</h2>
      {byKind(draft.changes).map(([kind, changes]) => (
        <section key={kind}>
          <h3>{kind}</h3>
          <ul>
            {changes.flatMap((change) =>
              change.sentences.map((sentence) => <li key={sentence}>{sentence}.</li>),
            )}
          </ul>
        </section>
      ))}
      <h2>Impact</h2>
      <Impact draft={draft} />
    </article>
  );
}

function Impact({ draft }: { draft: DraftView }) {
  const impact = useImpact(draft.id, draft.content, draft.revision);
  const it = impact.data;
  if (impact.isError) return <ProblemAlert problem={impact.error} />;
  if (!it || it.state === "running") return <Loading what="the impact" />;
  if (it.state === "hidden") {
    return (
      <p className="note">Only people who can read everything in this draft can see its impact.</p>
    );
  }
  if (it.state === "faulty") {
    return <p className="warning">The draft has errors. Fix them to see its impact.</p>;
  }
  return (
    <>
      <p>{it.summary}</p>
      {it.begin.map((each) => (
        <p key={each.key + each.said} className="warning">
          New violation: {each.name}. {each.said}.
        </p>
      ))}
      {it.end.map((each) => (
        <p key={each.key + each.said}>
          Resolved: {each.name}. {each.said}.
        </p>
      ))}
      {it.people.slice(0, SHOWN).map((person) => (
        <Person key={person.key} draft={draft} person={person.key} name={person.name} />
      ))}
      {it.people.length > SHOWN && (
        <p className="note">and {count(it.people.length - SHOWN, "more person", "more people")}</p>
      )}
    </>
  );
}

interface PersonProps {
  draft: DraftView;
  person: string;
  name: string;
}

function Person({ draft, person, name }: PersonProps) {
  const impact = usePersonImpact(draft.id, person, draft.content);
  const lines = impact.data?.lines ?? [];
  const rights = (what: "gained" | "lost") =>
    lines
      .filter((it) => it[what] > 0)
      .map((it) => `${it.permissionName} (${it[what]} in ${it.accountName})`)
      .join(", ");
  return (
    <section>
      <h3>{name}</h3>
      {impact.isPending && <p className="note">Loading…</p>}
      {impact.isError && <p className="note">You can't ask about their access.</p>}
      {rights("gained") && <p>Will be able to: {rights("gained")}.</p>}
      {rights("lost") && <p>Will no longer be able to: {rights("lost")}.</p>}
    </section>
  );
}
