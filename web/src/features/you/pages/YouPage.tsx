import { Link } from "react-router";
import { Mandala } from "../../../components/Mandala";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { eyes } from "../../../lib/eyes";
import { count } from "../../../lib/words";
import { useAccess } from "../../ask/queries";
import type { Question } from "../../ask/model";
import type { Who } from "../../session";
import { usePersonPage, type AssignmentView } from "../../things/queries";
import { endsSoon, heldIn } from "../model";

/** What I hold, in the words of the places I know, by what, and what of it ends soon. */
export function YouPage({ who }: { who: Who }) {
  const at = eyes()?.at ?? "";
  const question: Question = {
    who: who.key,
    in: "",
    doors: true,
    at,
    factor: who.secondFactor,
    actingFor: "",
  };
  const access = useAccess(question, true);
  const page = usePersonPage(who.key);
  if (access.isPending || page.isPending) return <Waiting what="what you hold" />;
  if (access.isError) {
    return <ProblemNote problem={access.error} onRetry={() => void access.refetch()} />;
  }
  if (page.isError) {
    return <ProblemNote problem={page.error} onRetry={() => void page.refetch()} />;
  }
  const names = new Map(access.data.permissions.map((it) => [it.key, it.name]));
  const held = heldIn(access.data.regions, names);
  const now = at ? new Date(at) : new Date();
  const soon = page.data.assignments.filter((it) => endsSoon(it.until, now));
  return (
    <div className="you">
      <header className="page-head">
        <h1>{who.name}</h1>
        <p className="note">
          {[
            who.title,
            count(access.data.figure.rights, "right"),
            who.enrolled
              ? who.secondFactor
                ? "signed in with a second factor"
                : "signed in without your second factor: what needs it does not count now"
              : "no second factor enrolled",
          ]
            .filter(Boolean)
            .join(" · ")}
        </p>
        <p className="acts">
          <Link
            to={`/ask?who=${encodeURIComponent(who.key)}${who.secondFactor ? "&factor=1" : ""}`}
          >
            Down to each right, and why
          </Link>
        </p>
      </header>
      <div className="you-parts">
        <section aria-label="What you can do">
          <h2 className="part">What you can do</h2>
          {held.length === 0 && <p className="note">Nothing anywhere. Ask your manager.</p>}
          <dl className="held">
            {held.map((it) => (
              <div key={it.resource + it.place}>
                <dt>{it.place}</dt>
                <dd>{it.allowed.join(", ")}</dd>
              </div>
            ))}
          </dl>
        </section>
        <figure className="before-after">
          <Mandala figure={access.data.figure} size={260} label={`Access of ${who.name}`} />
        </figure>
      </div>
      <h2 className="part">By what</h2>
      <Holdings assignments={page.data.assignments} />
      {page.data.groups.length > 0 && (
        <p className="note">In {page.data.groups.map((it) => it.name).join(", ")}.</p>
      )}
      <h2 className="part">Ends within a month</h2>
      {soon.length === 0 ? <p className="note">Nothing.</p> : <Holdings assignments={soon} />}
    </div>
  );
}

function Holdings({ assignments }: { assignments: AssignmentView[] }) {
  if (assignments.length === 0) return <p className="note">Nothing is assigned to you.</p>;
  return (
    <ul className="findings">
      {assignments.map((it) => (
        <li key={it.key}>
          <strong>{it.givesName}</strong>
          {it.denies && " is denied"}, {it.where}
          <small>
            {" "}
            through {it.subjectName}
            {it.until && `, until ${it.until.slice(0, 10)}`}
            {it.justInTime && ", when switched on"}
          </small>
        </li>
      ))}
    </ul>
  );
}
