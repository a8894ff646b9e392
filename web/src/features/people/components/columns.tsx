import { Checkbox, type TableColumnType } from "antd";
import { Link } from "react-router";
import { Mandala } from "@/entities/access/Mandala";
import { percent } from "@/entities/access/excess";
import { ago, count, dateOf } from "@/shared/lib/words";
import type { ListView } from "@/shared/ui/useListView";
import { personPage, rolesInWords, type Selected, type Slot } from "../model";
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

/** The columns that one can hide. */
export const CHOOSABLE = [
  { key: "figure", title: "Mandala" },
  { key: "state", title: "State" },
  { key: "unit", title: "Unit" },
  { key: "account", title: "Account" },
  { key: "roles", title: "Roles" },
  { key: "seen", title: "Last seen" },
  { key: "rights", title: "Rights" },
  { key: "exposure", title: "Exposure" },
  { key: "unused", title: "Unused" },
  { key: "share", title: "Share unused" },
];

/** Those that are hidden until one shows them. */
export const USUALLY_HIDDEN = ["rights", "unused"];

/** The columns by which the server sorts. */
const SORTED = ["name", "state", "unit", "account", "seen", "exposure", "unused", "share"];

/** The columns of the list of people, as the view has them. */
export function columnsOf(
  chosen: Map<string, Selected>,
  onChoose: (slot: Slot, chosen: boolean, shift: boolean) => void,
  now: Date,
  view: ListView,
): TableColumnType<Slot>[] {
  return all(chosen, onChoose, now)
    .filter((it) => !view.hidden.includes(String(it.key)))
    .map((it) => ({
      ...it,
      ...(SORTED.includes(String(it.key)) && {
        sorter: true,
        showSorterTooltip: false,
        sortOrder: view.sort.key === it.key ? view.sort.order : null,
      }),
    }));
}

function all(
  chosen: Map<string, Selected>,
  onChoose: (slot: Slot, chosen: boolean, shift: boolean) => void,
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
      render: (_, slot) => {
        const { row } = slot;
        return row ? (
          <span className={styles["name"]}>
            <Checkbox
              aria-label={`Select ${row.name}`}
              checked={chosen.has(row.key)}
              onChange={(event) => onChoose(slot, event.target.checked, event.nativeEvent.shiftKey)}
            />
            <Link to={personPage(row)}>{row.name}</Link>
            <small>{row.kind === "service" ? "service" : row.title}</small>
          </span>
        ) : (
          <span className="quiet">…</span>
        );
      },
    },
    { key: "state", title: "State", width: 90, render: (_, { row }) => row?.state },
    {
      key: "unit",
      title: "Unit",
      width: 135,
      render: (_, { row }) => <span className="quiet">{row?.unitName}</span>,
    },
    {
      key: "account",
      title: "Account",
      width: 135,
      render: (_, { row }) => <span className="quiet">{row?.accountName}</span>,
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
    exposed("exposure", "Exposure", 100, (it) => it.exposure.toLocaleString("en")),
    exposed("unused", "Unused", 90, (it) => it.unused.toLocaleString("en")),
    exposed("share", "Share unused", 125, (it) => percent(it.unused, it.exposure)),
  ];
}

/** A column about the exposure of people, as it was counted last. */
function exposed(
  key: string,
  title: string,
  width: number,
  of: (it: NonNullable<Row["exposure"]>) => string,
): TableColumnType<Slot> {
  return {
    key,
    title,
    width,
    align: "end",
    className: styles["end"] ?? "",
    render: (_, { row }) => (row?.exposure ? of(row.exposure) : ""),
  };
}
