import { Checkbox, type TableColumnType } from "antd";
import { Link } from "react-router";
import { Mandala } from "@/entities/access/Mandala";
import { ago, count, dateOf } from "@/shared/lib/words";
import { personPage, rolesInWords, type Slot } from "../model";
import type { Row } from "../queries";
import styles from "./PeopleList.module.css";

/** The figure of a row: a thumbprint of the person's access. */
export function Thumbprint({ row }: { row: Row }) {
  return (
    row.figure && (
      <Mandala
        figure={row.figure}
        size={48}
        label={`${row.name}: ${count(row.figure.rights, "right")}`}
      />
    )
  );
}

/** The columns of the list of people. */
export function columnsOf(
  chosen: Map<string, Row>,
  onChoose: (row: Row, chosen: boolean) => void,
  now: Date,
): TableColumnType<Slot>[] {
  return [
    {
      key: "figure",
      title: <span className="hidden-text">Mandala</span>,
      width: 64,
      render: (_, { row }) => row && <Thumbprint row={row} />,
    },
    {
      key: "name",
      title: "Name",
      width: 230,
      render: (_, { row }) =>
        row ? (
          <span className={styles["name"]}>
            <Checkbox
              aria-label={`Select ${row.name}`}
              checked={chosen.has(row.key)}
              onChange={(event) => onChoose(row, event.target.checked)}
            />
            <Link to={personPage(row)}>{row.name}</Link>
            <small>{row.kind === "service" ? "service" : row.title}</small>
          </span>
        ) : (
          <span className="quiet">…</span>
        ),
    },
    { key: "state", title: "State", width: 90, render: (_, { row }) => row?.state },
    {
      key: "unit",
      title: "Unit",
      width: 150,
      render: (_, { row }) => (
        <span className="quiet">{row ? (row.unitName ?? row.accountName) : ""}</span>
      ),
    },
    {
      key: "roles",
      title: "Roles",
      render: (_, { row }) => {
        if (!row) return "";
        const roles = rolesInWords(row.roles);
        return (
          <span title={row.roles.join(", ")}>
            {roles.shown} {roles.more > 0 && <small>+{roles.more}</small>}
          </span>
        );
      },
    },
    {
      key: "seen",
      title: "Last seen",
      width: 105,
      render: (_, { row }) =>
        row && <span title={row.lastSeen && dateOf(row.lastSeen)}>{ago(row.lastSeen, now)}</span>,
    },
    {
      key: "rights",
      title: "Rights",
      width: 80,
      align: "end",
      className: styles["end"] ?? "",
      render: (_, { row }) => row?.figure?.rights.toLocaleString("en") ?? "",
    },
  ];
}
