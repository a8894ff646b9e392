import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { Mandala } from "../../../components/Mandala";
import { ago, count } from "../../../lib/words";
import { PAGE, pagesOf, rolesInWords, ROW_HEIGHT, rowsInSight, type Filter } from "../model";
import { usePeoplePages, type Row } from "../queries";

interface Props {
  filter: Filter;
  total: number;
  /** Who is chosen, by key. */
  chosen: Map<string, Row>;
  onChoose: (row: Row, chosen: boolean) => void;
}

/** The list; it draws and fetches only what is in sight, so that length does not matter. */
export function PeopleList({ filter, total, chosen, onChoose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [view, setView] = useState({ top: 0, height: 700 });
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const look = () => setView({ top: element.scrollTop, height: element.clientHeight });
    look();
    element.addEventListener("scroll", look, { passive: true });
    const observer = new ResizeObserver(look);
    observer.observe(element);
    return () => {
      element.removeEventListener("scroll", look);
      observer.disconnect();
    };
  }, []);
  const [first, last] = rowsInSight(view.top, view.height, total);
  const pages = pagesOf(first, last);
  const answers = usePeoplePages(filter, pages);
  const now = new Date();
  const rows: { at: number; row: Row | undefined }[] = [];
  for (let at = first; at < last; at++) {
    const answer = answers[pages.indexOf(Math.floor(at / PAGE))];
    rows.push({ at, row: answer?.data?.rows[at % PAGE] });
  }
  return (
    <div className="people" role="table" aria-label="People" aria-rowcount={total}>
      <div className="people-row people-head" role="row">
        <span role="columnheader" aria-label="Mandala" />
        <span role="columnheader">name</span>
        <span role="columnheader">state</span>
        <span role="columnheader">unit</span>
        <span role="columnheader">roles</span>
        <span role="columnheader">last seen</span>
        <span role="columnheader" className="right">
          rights
        </span>
      </div>
      <div className="people-body" ref={box} tabIndex={-1}>
        <div style={{ height: total * ROW_HEIGHT, position: "relative" }}>
          {rows.map(({ at, row }) => (
            <div
              key={row?.key ?? `at-${at}`}
              className="people-row"
              role="row"
              aria-rowindex={at + 1}
              style={{ transform: `translateY(${at * ROW_HEIGHT}px)` }}
            >
              {row ? (
                <Cells
                  row={row}
                  now={now}
                  place={filter.account}
                  chosen={chosen.has(row.key)}
                  onChoose={(it) => onChoose(row, it)}
                />
              ) : (
                <span>…</span>
              )}
            </div>
          ))}
        </div>
      </div>
    </div>
  );
}

interface CellsProps {
  row: Row;
  now: Date;
  place: string;
  chosen: boolean;
  onChoose: (chosen: boolean) => void;
}

function Cells({ row, now, place, chosen, onChoose }: CellsProps) {
  const roles = rolesInWords(row.roles);
  const factor = row.secondFactor ? "&factor=1" : "";
  const to = `/ask?who=${encodeURIComponent(row.key)}&in=${encodeURIComponent(place)}${factor}`;
  return (
    <>
      <span role="cell">
        {row.figure && (
          <Mandala
            figure={row.figure}
            size={48}
            label={`${row.name}: ${count(row.figure.rights, "right")}`}
          />
        )}
      </span>
      <span role="cell" className="people-name">
        <input
          type="checkbox"
          aria-label={`Choose ${row.name}`}
          checked={chosen}
          onChange={(event) => onChoose(event.target.checked)}
        />
        <Link to={to}>{row.name}</Link>
        <small>{row.kind === "service" ? "service" : row.title}</small>
      </span>
      <span role="cell">{row.state}</span>
      <span role="cell" className="quiet">
        {row.unitName ?? row.accountName}
      </span>
      <span role="cell">
        {roles.shown} {roles.more > 0 && <small className="inline">+{roles.more}</small>}
      </span>
      <span role="cell">{ago(row.lastSeen, now)}</span>
      <span role="cell" className="right">
        {row.figure?.rights.toLocaleString("en") ?? ""}
      </span>
    </>
  );
}
