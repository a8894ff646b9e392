import { Link } from "react-router";
import { dateOf, dayOf } from "@/shared/lib/words";
import type { Column } from "@/shared/ui/DataTable";
import { LinkButton } from "@/shared/ui/LinkButton";
import { kindOf, KINDS, stateOf, whyOf, type Discrepancy } from "../systems";
import styles from "./Systems.module.css";

/** The columns of the list of differences. */
export function discrepancyColumns(
  open: string | undefined,
  onOpen: (id: string) => void,
): Column<Discrepancy>[] {
  return [
    {
      key: "said",
      title: "Difference",
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
      order: (it) => KINDS.findIndex(({ value }) => value === it.kind),
      text: kindOf,
      render: kindOf,
    },
    { key: "state", title: "State", width: 140, order: stateOf, render: stateOf },
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

/** What a difference rests on, and what was said of it. */
export function DiscrepancyDetail({ of: it }: { of: Discrepancy }) {
  const why = whyOf(it);
  const means = KINDS.find(({ value }) => value === it.kind)?.means;
  return (
    <>
      <p className={styles["held"]}>
        {means}{" "}
        {it.held.length > 0
          ? `The system has: ${it.held.join("; ")}.`
          : it.kind === "missing" && "The system has nothing that means it."}
      </p>
      {it.reason && (
        <p>
          {it.state === "accepted" ? "Accepted" : "Was accepted"}
          {it.until && <> until {dateOf(it.until)}</>}: {it.reason}
        </p>
      )}
      {it.goneAt && <p>Settled on {dateOf(it.goneAt)}.</p>}
      <p className={styles["bar"]}>
        {why && (
          <Link to={why}>
            {it.kind === "extra" ? "Why not, in the model" : "Why, in the model"}
          </Link>
        )}
        {it.who && <Link to={`/people/${encodeURIComponent(it.who)}`}>Open {it.whoName}</Link>}
      </p>
    </>
  );
}
