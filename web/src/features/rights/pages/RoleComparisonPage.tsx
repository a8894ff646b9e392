import { Link } from "react-router";
import { useRolePage } from "@/entities/thing/queries";
import type { Schemas } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { apart } from "../model";
import styles from "./RoleComparisonPage.module.css";

const permissionsOf = (page: Schemas["RolePage"]) =>
  page.content.filter((it) => it.allowed).map((it) => it.name);
const holdersOf = (page: Schemas["RolePage"]) => page.holders.map((it) => it.name);

/** Two roles side by side: what only one has, and what both have. */
export function RoleComparisonPage() {
  const [params] = useAddress();
  const one = useRolePage(params.get("one") ?? "");
  const other = useRolePage(params.get("other") ?? "");
  const error = one.error ?? other.error;
  if (error) return <ProblemAlert problem={error} />;
  if (!one.data || !other.data) return <Loading what="the roles" />;
  const [left, both, right] = apart(permissionsOf(one.data), permissionsOf(other.data));
  const [leftPeople, bothPeople, rightPeople] = apart(holdersOf(one.data), holdersOf(other.data));
  const { role } = one.data;
  const { role: second } = other.data;
  const columns = [
    { title: `Only ${role.name}`, key: role.key, rights: left, people: leftPeople },
    { title: "Both", key: undefined, rights: both, people: bothPeople },
    { title: `Only ${second.name}`, key: second.key, rights: right, people: rightPeople },
  ];
  return (
    <>
      <PageHead
        path={[{ name: "Roles", to: "/rights/roles" }]}
        title={`${role.name} and ${second.name}`}
        facts={[
          left.length + right.length === 0 &&
            "They grant the same permissions. Only names, assignments and conditions differ.",
        ]}
      />
      <div className={styles["columns"]}>
        {columns.map((it) => (
          <section key={it.title}>
            <h2 className="part">
              {it.key ? <Link to={`/rights/roles/${it.key}`}>{it.title}</Link> : it.title}
            </h2>
            <h3>{count(it.rights.length, "permission")}</h3>
            <Names names={it.rights} />
            <h3>{count(it.people.length, "holder")}</h3>
            <Names names={it.people} />
          </section>
        ))}
      </div>
    </>
  );
}

function Names({ names }: { names: string[] }) {
  return (
    <ul className="plain-list">
      {names.map((name) => (
        <li key={name}>{name}</li>
      ))}
    </ul>
  );
}
