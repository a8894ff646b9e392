import { Link, useParams } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { byKind } from "../model";
import { useDraft, useImpact, usePersonImpact, type DraftView } from "../queries";

/** How many people are told one by one on paper. */
const TOLD = 40;

/** The whole of a draft on one page, for reading before it is applied, and for printing. */
export function ReadPage() {
  const { id = "" } = useParams();
  const draft = useDraft(id);
  if (draft.isPending) return <Waiting what="the draft" />;
  if (draft.isError) return <ProblemNote problem={draft.error} />;
  return <Whole draft={draft.data} />;
}

function Whole({ draft }: { draft: DraftView }) {
  const impact = useImpact(draft.id, draft.content, draft.revision);
  const it = impact.data;
  return (
    <article className="paper">
      <p className="acts no-print">
        <Link to={`/drafts/${draft.id}`}>back to the draft</Link>
        <button type="button" className="link" onClick={() => window.print()}>
          print
        </button>
      </p>
      <h1>{draft.name ?? "Draft"}</h1>
      <p className="note">
        by {draft.owner.name}, over revision {draft.revision}, content {draft.content.slice(0, 12)}
      </p>
      <h2>What changes</h2>
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
      <h2>What it does</h2>
      {impact.isError && <ProblemNote problem={impact.error} />}
      {!it || it.state === "running" ? (
        <Waiting what="what it does" />
      ) : it.state === "hidden" ? (
        <p className="note">What it does is told to those who may read all that it names.</p>
      ) : it.state === "faulty" ? (
        <p className="wrong">It leaves a faulty model; mend it first.</p>
      ) : (
        <>
          <p>{it.summary}</p>
          {it.begin.map((each) => (
            <p key={each.key + each.said} className="wrong">
              Begins to be broken: {each.name}. {each.said}.
            </p>
          ))}
          {it.end.map((each) => (
            <p key={each.key + each.said}>
              Is mended: {each.name}. {each.said}.
            </p>
          ))}
          {it.people.slice(0, TOLD).map((person) => (
            <PersonRead key={person.key} draft={draft} person={person.key} name={person.name} />
          ))}
          {it.people.length > TOLD && (
            <p className="note">and {count(it.people.length - TOLD, "person", "people")} more</p>
          )}
        </>
      )}
    </article>
  );
}

interface PersonProps {
  draft: DraftView;
  person: string;
  name: string;
}

function PersonRead({ draft, person, name }: PersonProps) {
  const impact = usePersonImpact(draft.id, person, draft.content);
  const lines = impact.data?.lines ?? [];
  const tell = (what: "gained" | "lost") =>
    lines
      .filter((it) => it[what] > 0)
      .map((it) => `${it.permissionName} (${it[what]} in ${it.accountName})`)
      .join(", ");
  return (
    <section>
      <h3>{name}</h3>
      {impact.isPending && <p className="note">Fetching …</p>}
      {impact.isError && <p className="note">You may not ask about their access.</p>}
      {tell("gained") && <p>Will be able to: {tell("gained")}.</p>}
      {tell("lost") && <p>Will not be able to any more: {tell("lost")}.</p>}
    </section>
  );
}
