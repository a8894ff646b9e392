import { useState } from "react";
import { Link } from "react-router";
import { useUnused, type UnusedPermission, type UnusedRight } from "@/entities/access/excess";
import { count, dayOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

const RISKS = ["low", "moderate", "high", "critical"];

interface Props {
  principal: string;
  days: number | undefined;
  rows: UnusedPermission[];
}

/** Permissions of which something is not used; each unfolds into its places. */
export function UnusedRights({ principal, days, rows }: Props) {
  const [open, setOpen] = useState<string[]>([]);
  const columns: Column<UnusedPermission>[] = [
    {
      key: "name",
      title: "Permission",
      render: (row) => (
        <LinkButton
          aria-expanded={open.includes(row.key)}
          onClick={() =>
            setOpen(
              open.includes(row.key) ? open.filter((it) => it !== row.key) : [...open, row.key],
            )
          }
        >
          {row.name}
        </LinkButton>
      ),
      order: (row) => row.name,
      text: (row) => row.name,
      card: "title",
    },
    {
      key: "risk",
      title: "Risk",
      render: (row) => row.risk,
      order: (row) => RISKS.indexOf(row.risk),
      text: (row) => row.risk,
      width: 110,
    },
    {
      key: "places",
      title: "Places",
      numeric: true,
      render: (row) => row.places,
      order: (row) => row.places,
      width: 90,
    },
    {
      key: "last",
      title: "Last used",
      render: (row) => (row.lastUsed ? dayOf(row.lastUsed) : "never"),
      order: (row) => row.lastUsed ?? "",
      text: (row) => row.lastUsed ?? "",
      width: 150,
    },
    {
      key: "colleagues",
      title: "Colleagues who use it",
      render: (row) =>
        row.colleagues === undefined
          ? "no colleagues"
          : `${row.colleaguesUsing} of ${row.colleagues}`,
      order: (row) => (row.colleagues ? (row.colleaguesUsing ?? 0) / row.colleagues : -1),
      text: (row) =>
        row.colleagues === undefined ? "" : `${row.colleaguesUsing}/${row.colleagues}`,
      width: 190,
    },
  ];
  return (
    <DataTable
      label="Permissions that are not used"
      rows={rows}
      columns={columns}
      rowKey={(row) => row.key}
      tools="unused"
      detail={{
        open,
        render: (row) => <Places principal={principal} days={days} permission={row.key} />,
      }}
      empty={
        <EmptyState title="Everything that is observed is used">
          There is nothing to trim here. A shorter window may show more.
        </EmptyState>
      }
    />
  );
}

/** The places of one permission, each with what speaks for it. */
function Places(props: { principal: string; days: number | undefined; permission: string }) {
  const unused = useUnused(props, props.permission);
  if (unused.isPending) return <Loading what="places" rows={3} />;
  if (unused.isError) return <ProblemAlert problem={unused.error} />;
  const { rights, total, hidden, keptSince } = unused.data;
  const why = (row: UnusedRight) =>
    `/ask/why?who=${encodeURIComponent(props.principal)}&permission=${encodeURIComponent(props.permission)}&on=${encodeURIComponent(row.resource)}`;
  const columns: Column<UnusedRight>[] = [
    { key: "name", title: "Place", render: (row) => row.name, card: "title" },
    {
      key: "last",
      title: "Last used",
      render: (row) =>
        row.lastUsed
          ? `${dayOf(row.lastUsed)}, on ${count(row.days, "day")} in all`
          : `not since ${dayOf(keptSince)}`,
    },
    {
      key: "since",
      title: "Held since",
      render: (row) =>
        row.heldLonger
          ? "before the history begins"
          : row.heldSince
            ? dayOf(row.heldSince)
            : "your draft",
    },
    {
      key: "why",
      title: "How",
      quietTitle: true,
      render: (row) => <Link to={why(row)}>How they have it, how to remove it</Link>,
    },
  ];
  const more = total - hidden - rights.length;
  return (
    <>
      <DataTable
        label="Places"
        rows={rights}
        columns={columns}
        rowKey={(row) => row.resource}
        tools={undefined}
      />
      {more > 0 && <p className="note">{count(more, "more place")} not listed.</p>}
      {hidden > 0 && <p className="note">You can't see {count(hidden, "place")}.</p>}
    </>
  );
}
