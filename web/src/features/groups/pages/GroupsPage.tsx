import { useState } from "react";
import { Button, Input } from "antd";
import { Link, useNavigate } from "react-router";
import { useAccount, useAccountNames } from "@/entities/account/queries";
import { DraftMark } from "@/entities/draft/DraftMark";
import { LazyThingForm } from "@/entities/form/LazyThingForm";
import { useMayMake } from "@/entities/form/useMayMake";
import { useThings, type ThingView } from "@/entities/thing/queries";
import { listOf, textOf } from "@/shared/lib/thing";
import { SUBJECT_TABS } from "@/entities/subject/tabs";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageTabs } from "@/shared/ui/PageTabs";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { SavedViews } from "@/entities/view/SavedViews";
import { ruleOf } from "../model";

function membersInWords(group: ThingView): string {
  const members = listOf(group.thing, "members").length;
  return (
    [ruleOf(group.thing) && "by rule", members > 0 && count(members, "listed member")]
      .filter(Boolean)
      .join(", ") || "none"
  );
}

/** The groups of the account one works in. */
export function GroupsPage() {
  const [account] = useAccount();
  const [params, set] = useAddress();
  const text = params.get("text") ?? "";
  const groups = useThings("groups", {
    ...(account && { account: account.key }),
    text,
    limit: 1000,
  });
  const may = useMayMake("groups", account?.key);
  const [creating, setCreating] = useState(false);
  const accountName = useAccountNames();
  const navigate = useNavigate();
  return (
    <>
      <PageTabs
        label="Groups"
        titled
        tabs={SUBJECT_TABS}
        extra={
          <Input
            allowClear
            variant="underlined"
            aria-label="Part of the name"
            placeholder="Filter by name"
            value={text}
            onChange={(event) => set({ text: event.target.value }, { replace: true })}
          />
        }
      />
      {may && (
        <div className="acts">
          <Button size="small" onClick={() => setCreating(true)}>
            New group in {account?.name}
          </Button>
        </div>
      )}
      {creating && (
        <LazyThingForm
          kind="groups"
          given={account ? { account: account.key } : {}}
          onClose={() => setCreating(false)}
          onMade={(key) => void navigate(`/groups/${encodeURIComponent(key)}`)}
        />
      )}
      {groups.isPending ? (
        <Loading what="groups" />
      ) : groups.isError ? (
        <ProblemAlert problem={groups.error} onRetry={() => void groups.refetch()} />
      ) : groups.data.total === 0 && !text && !may && account?.readable === false ? (
        <NoAccess what={`the groups of ${account.name}`}>
          A group gives the same access to all its members.
        </NoAccess>
      ) : groups.data.total === 0 ? (
        <EmptyState>
          {may
            ? "No groups match here. Clear the filter, choose another account above, or create a group."
            : "No groups match here. Clear the filter, or choose another account above."}
        </EmptyState>
      ) : (
        <DataTable
          label="Groups"
          tools="groups"
          extra={<SavedViews />}
          rows={groups.data.things}
          rowKey={(it) => it.key ?? ""}
          rowClass={(it) => it.mark}
          columns={[
            {
              key: "name",
              title: "Group",
              card: "title",
              order: (it) => it.name,
              render: (it) => (
                <>
                  <Link to={`/groups/${encodeURIComponent(it.key ?? "")}`}>{it.name}</Link>
                  <DraftMark mark={it.mark} />
                </>
              ),
            },
            {
              key: "account",
              title: "Account",
              order: (it) => accountName(it.account ?? ""),
              render: (it) => accountName(it.account ?? ""),
            },
            {
              key: "members",
              title: "Members",
              order: (it) => listOf(it.thing, "members").length,
              render: membersInWords,
              text: membersInWords,
            },
            {
              key: "state",
              title: "State",
              order: (it) => textOf(it.thing, "status") || "active",
              render: (it) => textOf(it.thing, "status") || "active",
            },
          ]}
        />
      )}
    </>
  );
}
