import { Link } from "react-router";
import { dateOf, dayOf } from "@/shared/lib/words";
import type { Column } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";
import { stateOf } from "../model";
import type { Finding } from "../queries";
import styles from "./findingColumns.module.css";

const RISKS = ["low", "moderate", "high", "critical"];

/** The columns of the list of findings. */
export function findingColumns(
  open: string | undefined,
  onOpen: (id: string) => void,
): Column<Finding>[] {
  return [
    {
      key: "finding",
      title: "Finding",
      card: "title",
      order: (it) => it.said,
      text: (it) => it.said,
      render: (it) => (
        <span className={styles["said"]}>
          <LinkButton aria-expanded={open === it.id} onClick={() => onOpen(it.id)}>
            {it.said}
          </LinkButton>
        </span>
      ),
    },
    {
      key: "kind",
      title: "Kind",
      width: 150,
      quiet: true,
      order: (it) => it.title,
      render: (it) => it.title,
    },
    {
      key: "risk",
      title: "Risk",
      width: 84,
      order: (it) => RISKS.indexOf(it.risk),
      text: (it) => it.risk,
      render: (it) => <span className={styles[it.risk]}>{it.risk}</span>,
    },
    {
      key: "size",
      title: "Size",
      width: 84,
      numeric: true,
      order: (it) => it.weight,
      text: (it) => it.weight,
      render: (it) => it.weight.toLocaleString("en"),
    },
    {
      key: "account",
      title: "Account",
      width: 140,
      quiet: true,
      order: (it) => it.accountName ?? "",
      render: (it) => it.accountName,
    },
    {
      key: "state",
      title: "State",
      width: 96,
      order: stateOf,
      render: stateOf,
    },
    {
      key: "owner",
      title: "Owner",
      width: 96,
      quiet: true,
      order: (it) => it.ownerName ?? "",
      text: (it) => it.ownerName ?? "",
      render: (it) =>
        it.owner ? (
          <Link to={`/people/${encodeURIComponent(it.owner)}`}>{it.ownerName}</Link>
        ) : (
          it.ownerName
        ),
    },
    {
      key: "since",
      title: "First seen",
      width: 112,
      quiet: true,
      order: (it) => it.since ?? "",
      text: (it) => it.since ?? "",
      render: (it) => it.since && <span title={dateOf(it.since)}>{dayOf(it.since)}</span>,
    },
  ];
}
