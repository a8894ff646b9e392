import { Button } from "antd";
import { Link } from "react-router";
import { useMay } from "@/entities/account/queries";
import { dateOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { orderInWords, stateInWords, usePersonnelLists, type PersonnelSource } from "../personnel";

/** The lists of the personnel office. */
export function PersonnelListsPage() {
  const lists = usePersonnelLists();
  const may = useMay("mandala.people.manage");
  if (lists.isPending) return <Loading what="the personnel lists" />;
  if (lists.isError) {
    return <ProblemAlert problem={lists.error} onRetry={() => void lists.refetch()} />;
  }
  if (!may) {
    return (
      <NoAccess what="personnel lists">
        Whoever may manage the people of an account sets them up.
      </NoAccess>
    );
  }
  return (
    <>
      <PageHead
        path={[{ name: "People", to: "/people" }, { name: "Personnel lists" }]}
        title="Personnel lists"
        facts={["who joins, changes and leaves, as the personnel office says"]}
        actions={
          <Link to="/personnel/new">
            <Button type="primary">New list</Button>
          </Link>
        }
      />
      <DataTable<PersonnelSource>
        label="Personnel lists"
        rows={lists.data.lists}
        rowKey={(it) => String(it.number)}
        columns={columns}
        empty="No lists yet. A list of the personnel office, by hand or from a folder of the server, becomes a draft of who joins, changes and leaves."
      />
    </>
  );
}

const columns: Column<PersonnelSource>[] = [
  {
    key: "title",
    title: "list",
    card: "title",
    render: (it) => (
      <>
        <Link to={`/personnel/${it.number}`}>{it.order.title}</Link>
        <div className="note">{orderInWords(it.order)}</div>
      </>
    ),
  },
  { key: "where", title: "where", width: 190, render: (it) => it.accountName },
  {
    key: "taken",
    title: "taken last",
    width: 280,
    render: ({ taken: [last] }) => (last ? `${dateOf(last.at)}: ${stateInWords(last)}` : "never"),
  },
  { key: "owner", title: "owner", width: 130, render: (it) => it.ownerName },
];
