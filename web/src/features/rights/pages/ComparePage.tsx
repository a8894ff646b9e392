import { Link, useSearchParams } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { count } from "../../../lib/words";
import { useRolePage } from "../../things/queries";
import { apart } from "../model";

/** Two roles side by side: what only one has, and what both have. */
export function ComparePage() {
  const [params] = useSearchParams();
  const one = useRolePage(params.get("one") ?? "");
  const other = useRolePage(params.get("other") ?? "");
  if (one.isError || other.isError) {
    return <ProblemNote problem={one.error ?? other.error ?? new Error("Choose two roles")} />;
  }
  if (!one.data || !other.data) return <Waiting what="the roles" />;
  const names = (page: typeof one.data) =>
    page.content.filter((it) => it.allowed).map((it) => it.name);
  const [left, both, right] = apart(names(one.data), names(other.data));
  const people = (page: typeof one.data) => page.holders.map((it) => it.name);
  const [leftPeople, bothPeople, rightPeople] = apart(people(one.data), people(other.data));
  const columns = [
    { title: `Only ${one.data.role.name}`, key: one.data.role.key, rights: left, who: leftPeople },
    { title: "Both", key: undefined, rights: both, who: bothPeople },
    {
      title: `Only ${other.data.role.name}`,
      key: other.data.role.key,
      rights: right,
      who: rightPeople,
    },
  ];
  return (
    <>
      <header className="page-head">
        <p className="note">
          <Link to="/rights/roles">Roles</Link>
        </p>
        <h1>
          {one.data.role.name} beside {other.data.role.name}
        </h1>
        {left.length + right.length === 0 && (
          <p>They give the same: they differ in name, assignments and rules only.</p>
        )}
      </header>
      <div className="compare">
        {columns.map((it) => (
          <section key={it.title}>
            <h2 className="part">
              {it.key ? <Link to={`/rights/roles/${it.key}`}>{it.title}</Link> : it.title}
            </h2>
            <h3>{count(it.rights.length, "permission")}</h3>
            <ul>
              {it.rights.map((name) => (
                <li key={name}>{name}</li>
              ))}
            </ul>
            <h3>{count(it.who.length, "holder")}</h3>
            <ul>
              {it.who.map((name) => (
                <li key={name}>{name}</li>
              ))}
            </ul>
          </section>
        ))}
      </div>
    </>
  );
}
