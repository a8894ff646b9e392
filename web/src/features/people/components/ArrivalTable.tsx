import { Tag } from "antd";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { DataTable } from "@/shared/ui/DataTable";

type Arrival = Schemas["ArrivalView"];

const STATES: Record<Arrival["state"], string> = {
  new: "new",
  known: "already here",
  faulty: "error",
};

interface Props {
  /** The first rows, those with errors before the others. */
  rows: Arrival[];
  total: number;
}

/** What the rows of a list come to. */
export function ArrivalTable({ rows, total }: Props) {
  return (
    <>
      <DataTable
        label="Rows of the list"
        rows={rows}
        rowKey={(it) => `${it.line} ${it.name} ${it.email}`}
        columns={[
          { key: "line", title: "Line", numeric: true, width: 70, render: (it) => it.line },
          {
            key: "name",
            title: "Name",
            card: "title",
            render: (it) =>
              it.person === undefined ? (
                it.name
              ) : (
                <Link to={`/people/${encodeURIComponent(it.person)}`}>{it.name || it.person}</Link>
              ),
          },
          { key: "email", title: "Address", quiet: true, render: (it) => it.email },
          {
            key: "state",
            title: "State",
            width: 120,
            render: (it) => <Tag>{STATES[it.state]}</Tag>,
          },
          { key: "why", title: "What is wrong", render: (it) => it.faults.join(" ") },
        ]}
      />
      {rows.length < total && (
        <p className="note">
          {rows.length} of {total.toLocaleString("en")} rows are shown, errors first.
        </p>
      )}
    </>
  );
}
