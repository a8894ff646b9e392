import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useAccount, useAccountNames } from "@/entities/account/queries";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useRoleUses, type ThingView } from "@/entities/thing/queries";
import { flagOf, listOf, textOf } from "@/shared/lib/thing";
import { DataTable } from "@/shared/ui/DataTable";
import { SavedViews } from "@/entities/view/SavedViews";
import { accountColumn, DESCRIPTION } from "./columns";
import { NewThing } from "./NewThing";

function conditionsOf(role: ThingView): string {
  return [
    textOf(role.thing, "status") === "retired" && "retired",
    flagOf(role.thing, "requiresMfa") && "second factor",
    listOf(role.thing, "prerequisites").length > 0 && "prerequisites",
  ]
    .filter(Boolean)
    .join(", ");
}

/** Roles; two of them can be compared. */
export function RoleTable({ roles }: { roles: ThingView[] }) {
  const uses = useRoleUses();
  const [account] = useAccount();
  const accountName = useAccountNames();
  const navigate = useNavigate();
  const [compared, setCompared] = useState<string[]>([]);
  const holders = (it: ThingView) => uses.data?.holders[it.key ?? ""] ?? 0;
  return (
    <>
      <div className="acts">
        <NewThing
          kind="roles"
          label={`New role in ${account?.name ?? ""}`}
          onMade={(key) => void navigate(`/rights/roles/${encodeURIComponent(key)}`)}
        />
        {compared.length === 2 ? (
          <Link to={`/rights/compare?one=${compared[0] ?? ""}&other=${compared[1] ?? ""}`}>
            Compare the two selected roles
          </Link>
        ) : (
          <span className="note">
            Tip: copy a similar role and adapt it. Select two to compare.
          </span>
        )}
      </div>
      <DataTable
        label="Roles"
        tools="roles"
        extra={<SavedViews />}
        rows={roles}
        rowKey={(it) => it.key ?? ""}
        rowClass={(it) => it.mark}
        selection={{ chosen: compared, onChange: setCompared, name: (it) => it.name, most: 2 }}
        columns={[
          {
            key: "name",
            title: "Role",
            card: "title",
            order: (it) => it.name,
            render: (it) => (
              <>
                <Link to={`/rights/roles/${encodeURIComponent(it.key ?? "")}`}>{it.name}</Link>
                <DraftMark mark={it.mark} />
              </>
            ),
          },
          DESCRIPTION,
          accountColumn(accountName),
          { key: "holders", title: "Holders", numeric: true, order: holders, render: holders },
          { key: "conditions", title: "Conditions", render: conditionsOf },
        ]}
      />
    </>
  );
}
