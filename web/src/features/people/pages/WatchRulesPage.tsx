import { Button } from "antd";
import { Link } from "react-router";
import { useMay } from "@/entities/account/queries";
import { dateOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { doneInWords, ruleInWords, useWatchRules, type WatchRuleView } from "../watch";

/** The rules that watch for people who are not seen, and for what is left over. */
export function WatchRulesPage() {
  const rules = useWatchRules();
  const may = useMay("mandala.people.manage");
  if (rules.isPending) return <Loading what="the rules" />;
  if (rules.isError) {
    return <ProblemAlert problem={rules.error} onRetry={() => void rules.refetch()} />;
  }
  if (!may) {
    return (
      <NoAccess what="rules">
        Whoever may manage the people of an account makes its rules: for people who are not seen,
        guests, invitations and unused services.
      </NoAccess>
    );
  }
  return (
    <>
      <PageHead
        path={[{ name: "People", to: "/people" }, { name: "Rules" }]}
        title="Rules"
        facts={["each looks once an hour, with the rights of its owner"]}
        actions={
          <Link to="/watch-rules/new">
            <Button type="primary">New rule</Button>
          </Link>
        }
      />
      <DataTable<WatchRuleView>
        label="Rules"
        rows={rules.data.rules}
        rowKey={(it) => String(it.number)}
        columns={columns}
        empty="No rules yet. A rule warns and suspends people who are not seen, ends guests, lets invitations lapse, and reports unused services."
      />
    </>
  );
}

const columns: Column<WatchRuleView>[] = [
  {
    key: "title",
    title: "rule",
    card: "title",
    render: (it) => (
      <>
        <Link to={`/watch-rules/${it.number}`}>{it.rule.title}</Link>
        <div className="note">{ruleInWords(it.rule)}</div>
      </>
    ),
  },
  {
    key: "where",
    title: "where",
    width: 190,
    render: (it) => (
      <>
        {it.accountName}
        {it.groupName && <div className="note">only {it.groupName}</div>}
      </>
    ),
  },
  {
    key: "state",
    title: "state",
    width: 220,
    render: (it) => (it.heldUp ? `waits: ${it.heldUp}` : "active"),
  },
  {
    key: "done",
    title: "did last",
    width: 200,
    render: ({ done: [last] }) =>
      last ? `${doneInWords(last)} on ${dateOf(last.at)}` : "nothing yet",
  },
  { key: "owner", title: "owner", width: 130, render: (it) => it.ownerName },
];
