import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { useEdit } from "@/entities/draft/queries";
import { ThingField } from "@/entities/thing/ThingField";
import { textOf } from "@/shared/lib/thing";
import { listed } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { TagList } from "@/shared/ui/TagList";

/** The groups a person is in, and the people who report to them. */
export function Memberships({ page }: { page: Schemas["PersonPage"] }) {
  const { person, groups, reports } = page;
  const edit = useEdit();
  const ref = `${textOf(person.thing, "kind")}:${person.key ?? ""}`;
  return (
    <div className="two">
      <section aria-label="Groups">
        <h2 className="part">Groups</h2>
        <TagList
          label="Groups"
          items={groups.map((it) => ({
            key: it.key,
            name: it.name,
            content: <Link to={`/groups/${it.key}`}>{it.name}</Link>,
          }))}
          add={
            <ThingField
              label="Groups"
              look="button"
              value="Add to group"
              search="Group"
              kind="groups"
              without={groups.map((it) => it.key)}
              onChoose={(group) =>
                edit.mutate([{ kind: "groups", key: group, add: { members: [ref] } }])
              }
            />
          }
        />
        {edit.isError && <ProblemAlert problem={edit.error} />}
      </section>
      <section aria-label="Reports">
        <h2 className="part">Reports</h2>
        <p>
          {reports.length === 0
            ? "No one reports to them."
            : `${listed(reports.map((it) => it.name))} ${reports.length === 1 ? "reports" : "report"} to them.`}
        </p>
      </section>
    </div>
  );
}
