import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { useMay } from "@/entities/account/queries";
import { useEdit } from "@/entities/draft/queries";
import { ThingField } from "@/entities/thing/ThingField";
import { textOf } from "@/shared/lib/thing";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { DataTable } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";

type Membership = Schemas["MembershipView"];

/** The groups a person is in, directly, by a rule, or through another group. */
export function Memberships({ page }: { page: Schemas["PersonPage"] }) {
  const { person, groups } = page;
  const edit = useEdit();
  const mayJoin = useMay("mandala.groups.manage");
  const [left, setLeft] = useState<string[]>([]);
  const ref = `${textOf(person.thing, "kind")}:${person.key ?? ""}`;
  const leave = (it: Membership) =>
    edit.mutate([{ kind: "groups", key: it.key, drop: { members: [ref] } }], {
      onSuccess: () => setLeft([...left, it.name]),
    });
  return (
    <section aria-label="Groups">
      <h2 className="part">Groups</h2>
      {groups.length === 0 ? (
        <p className="note">In no group that you can see.</p>
      ) : (
        <DataTable
          label="Groups"
          rows={groups}
          rowKey={(it) => it.key}
          columns={[
            {
              key: "name",
              title: "Group",
              card: "title",
              order: (it) => it.name,
              render: (it) => <Link to={`/groups/${encodeURIComponent(it.key)}`}>{it.name}</Link>,
            },
            { key: "account", title: "Account", quiet: true, render: (it) => it.account },
            {
              key: "how",
              title: "How",
              quiet: true,
              render: (it) => (it.direct ? "listed" : "by a rule, or through another group"),
            },
            {
              key: "actions",
              title: "Actions",
              quietTitle: true,
              width: 150,
              render: (it) =>
                it.direct &&
                !it.cannot && (
                  <LinkButton aria-label={`Remove from group ${it.name}`} onClick={() => leave(it)}>
                    Remove from group
                  </LinkButton>
                ),
            },
          ]}
        />
      )}
      <div className="acts">
        {mayJoin && (
          <ThingField
            label="Groups"
            look="button"
            value="Add to group"
            search="Group"
            kind="groups"
            without={groups.map((it) => it.key)}
            changeable
            onChoose={(group) =>
              edit.mutate([{ kind: "groups", key: group, add: { members: [ref] } }])
            }
          />
        )}
        {left.length > 0 && (
          <span role="status">Leaves {left.join(", ")} when your draft is applied.</span>
        )}
      </div>
      {edit.isError && <ProblemAlert problem={edit.error} />}
    </section>
  );
}
