import type { ReactNode } from "react";
import { Link } from "react-router";
import { Alert } from "antd";
import { Mandala } from "@/entities/access/Mandala";
import { count, dateOf, dayOf } from "@/shared/lib/words";
import { colleaguesOf, lastUseOf, takesOf } from "./model";
import type { ItemDetail } from "./queries";
import { UseLine } from "./UseLine";
import styles from "./Evidence.module.css";

interface Props {
  item: ItemDetail;
  /** Whether the page may link to pages that need more access. */
  links?: boolean;
}

/** What a decision rests on: what it takes, use, colleagues, origin, conflicts, recommendation. */
export function Evidence({ item, links = false }: Props) {
  const { row, figure, without } = item;
  const marks = [
    row.risk,
    row.insteadOf !== undefined && `for ${row.insteadOf}`,
    row.changed && "changed since",
    ...item.findings.map((it) => it.toLowerCase()),
  ].filter((it): it is string => typeof it === "string");
  return (
    <div className={styles["evidence"]}>
      {figure && without && (
        <figure className={styles["figure"]}>
          <Mandala
            figure={figure}
            shares={{ used: without, kept: without }}
            size={220}
            centre={row.aboutName.split(" ")[0] ?? ""}
            labels={false}
            label={`Access of ${row.aboutName}; what goes is striped`}
          />
          <figcaption className="note">Striped: what goes</figcaption>
        </figure>
      )}
      <div className={styles["facts"]}>
        <h2>
          {row.aboutName} <span className="note">{row.aboutNote}</span>
        </h2>
        <p className={styles["what"]}>
          {row.said}{" "}
          {marks.map((it) => (
            <span key={it} className={styles["mark"]}>
              {it}
            </span>
          ))}
        </p>
        <dl>
          <Fact name="Removing it takes">
            <strong>{takesOf(item)}</strong>
            {item.activated && " (counted as activated)"}
            {item.people !== undefined &&
              ` from ${count(item.people, "person", "people")} you can see`}
            {item.permissions.length > 0 && <Permissions item={item} />}
            {item.gives > 0 && (
              <Alert
                type="warning"
                showIcon
                title={`It denies something too: without it, they would gain ${count(item.gives, "right")}.`}
              />
            )}
          </Fact>
          {figure && (
            <Fact name={`Use, last ${item.use.days} days`}>
              <UseLine line={item.use.line} days={item.use.days} /> {lastUseOf(item)}
            </Fact>
          )}
          {figure && <Fact name="Comparable colleagues">{colleaguesOf(item)}</Fact>}
          <Fact name="Granted">
            <Origin item={item} links={links} />
          </Fact>
          {item.conflicts.length > 0 && <Fact name="Conflicts">{item.conflicts.join("; ")}</Fact>}
          {item.remaining !== undefined && (
            <Fact name="Would remain">{count(item.remaining, "right")}</Fact>
          )}
        </dl>
        <Advice item={item} />
      </div>
    </div>
  );
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div>
      <dt>{name}</dt>
      <dd>{children}</dd>
    </div>
  );
}

function Permissions({ item }: { item: ItemDetail }) {
  return (
    <span className="note">
      {": "}
      {item.permissions
        .slice(0, 4)
        .map((it) => `${it.name} on ${it.places.toLocaleString("en")}`)
        .join(", ")}
      {item.permissions.length + item.otherPermissions > 4 &&
        ` and ${count(item.permissions.length + item.otherPermissions - 4, "more permission")}`}
    </span>
  );
}

function Origin({ item: { given }, links }: Required<Pick<Props, "item" | "links">>) {
  if (!given) return "Before the trail begins";
  const revision = `revision ${given.revision}`;
  return (
    <>
      <span title={dateOf(given.at)}>{dayOf(given.at)}</span>
      {given.byName && ` by ${given.byName}`}, “{given.reason ?? given.title}”{" "}
      {links ? (
        <Link className="note" to={`/trail?revision=${given.revision}`}>
          {revision}
        </Link>
      ) : (
        <span className="note">{revision}</span>
      )}
    </>
  );
}

function Advice({ item: { advice, with: others, row } }: { item: ItemDetail }) {
  if (!advice) return null;
  const sure = { low: "not sure", moderate: "fairly sure", high: "sure" }[advice.certainty];
  return (
    <div className={styles["advice"]}>
      Recommended: <strong>{advice.verdict}</strong>, {sure}. {advice.reasons.join(". ")}.
      {row.conflict === "gave" && " You granted this yourself."}
      {row.conflict === "each-other" && " You and they review each other."}
      {others.length > 0 && (
        <p>
          Something else grants the same: {others.map((it) => it.said).join("; ")}. To end it,
          remove these together.
        </p>
      )}
    </div>
  );
}
