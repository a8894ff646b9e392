import { Fragment, useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { VerdictMark } from "../../../components/VerdictMark";
import { count } from "../../../lib/words";
import {
  CLASSES,
  countRegions,
  fitting,
  marksOf,
  riskOf,
  rowsOf,
  sizeOf,
  verdictInWords,
  idOf,
  type Mark,
  type Permission,
  type Question,
  type Region,
  type TableRow,
} from "../model";
import { useInside } from "../queries";
import { RoutesPanel } from "./RoutesPanel";

interface Props {
  regions: Region[];
  permissions: Map<string, Permission>;
  question: Question;
  /** Whether the regions begin unfolded. */
  unfold: boolean;
}

/** How many marks of a class fit in a row. */
const ROOM = { view: 7, change: 8, administer: 6 };

/** The resource tree folded into regions of equal rights, a mark for each permission. */
export function AccessTable({ regions, permissions, question, unfold }: Props) {
  const [params, setParams] = useSearchParams();
  const [unfolded, setUnfolded] = useState<Set<string>>(
    () => new Set(unfold ? regions.map((it) => idOf(it, "")) : []),
  );
  const [named, setNamed] = useState<Set<string>>(new Set());
  const [wanted, setWanted] = useState<string[]>(() =>
    unfold ? regions.filter((it) => it.more).map((it) => it.resource) : [],
  );
  const { inside, failed } = useInside(question, wanted);
  const rows = useMemo(() => rowsOf(regions, unfolded, inside), [regions, unfolded, inside]);
  const opened = params.get("routes") ?? "";

  function openRoutes(row: TableRow, mark: Mark) {
    const next = new URLSearchParams(params);
    const value = `${mark.permission.key}@${mark.cell.sample}@${row.id}`;
    if (value === opened) next.delete("routes");
    else next.set("routes", value);
    setParams(next);
  }

  return (
    <table className="access">
      <thead>
        <tr>
          <th scope="col">
            Where · {count(countRegions(regions), "region")} of {count(sizeOf(regions), "resource")}
            {regions.some((it) => it.more) && ", more inside"}
          </th>
          {CLASSES.map((it) => (
            <th scope="col" key={it}>
              {it}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => {
          const [permission, resource, id] = split(opened);
          const marks = marksOf(row.region, permissions);
          return (
            <Fragment key={row.id}>
              <tr className={id === row.id || named.has(row.id) ? "opened" : undefined}>
                <th scope="row" style={{ paddingInlineStart: 4 + row.depth * 18 }}>
                  <Where
                    row={row}
                    named={named.has(row.id)}
                    onToggle={() => {
                      if (row.folds) setUnfolded(toggled(unfolded, row.id));
                      else setNamed(toggled(named, row.id));
                      const { more, resource: top } = row.region;
                      if (more && !wanted.includes(top)) setWanted([...wanted, top]);
                    }}
                  />
                </th>
                {CLASSES.map((accessClass) => {
                  const { shown, more } = fitting(marks[accessClass], ROOM[accessClass]);
                  return (
                    <td key={accessClass}>
                      {shown.map((mark) => (
                        <MarkButton
                          key={mark.permission.key}
                          mark={mark}
                          where={row.region.name}
                          pressed={id === row.id && permission === mark.permission.key}
                          onOpen={() => openRoutes(row, mark)}
                        />
                      ))}
                      {more > 0 && <small title={`${more} more`}>+{more}</small>}
                      {shown.length === 0 && more === 0 && marks[accessClass].length > 0 && (
                        <VerdictMark verdict="none" accessClass={accessClass} risk="low" />
                      )}
                    </td>
                  );
                })}
              </tr>
              {row.open && row.region.more && !inside.has(row.region.resource) && (
                <tr className="opened">
                  <td colSpan={4} style={{ paddingInlineStart: 22 + row.depth * 18 }}>
                    {failed.has(row.region.resource)
                      ? "What is inside could not be read. Load the page again."
                      : "Reading what is inside …"}
                  </td>
                </tr>
              )}
              {named.has(row.id) && (
                <tr className="opened names">
                  <td colSpan={4}>
                    <MarkNames
                      region={row.region}
                      marks={CLASSES.flatMap((it) => marks[it])}
                      onOpen={(mark) => openRoutes(row, mark)}
                    />
                  </td>
                </tr>
              )}
              {id === row.id && permission && resource && (
                <tr className="opened">
                  <td colSpan={4} style={{ paddingInlineStart: 22 + row.depth * 18 }}>
                    <RoutesPanel question={question} permission={permission} resource={resource} />
                  </td>
                </tr>
              )}
            </Fragment>
          );
        })}
      </tbody>
    </table>
  );
}

function split(opened: string): [string, string, string] {
  const [permission = "", resource = "", ...id] = opened.split("@");
  return [permission, resource, id.join("@")];
}

function toggled(set: Set<string>, id: string): Set<string> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}

function Where({ row, named, onToggle }: { row: TableRow; named: boolean; onToggle: () => void }) {
  const open = row.folds ? row.open : named;
  return (
    <button type="button" className="where" aria-expanded={open} onClick={onToggle}>
      <span className={row.folds ? "fold" : "fold leaf"} aria-hidden="true">
        {row.folds ? (open ? "▾" : "▸") : open ? "−" : "+"}
      </span>
      <span className={row.region.shape === "account" || row.region.door ? "apart" : undefined}>
        {row.region.name}
      </span>
      <small>
        {row.region.sealed ? "sealed · " : ""}
        {row.region.note}
      </small>
    </button>
  );
}

interface MarkProps {
  mark: Mark;
  where: string;
  pressed: boolean;
  onOpen: () => void;
}

function MarkButton({ mark, where, pressed, onOpen }: MarkProps) {
  const told = `${mark.permission.name}: ${verdictInWords(mark)}`;
  return (
    <button
      type="button"
      className="mark-button"
      data-permission={mark.permission.key}
      data-verdict={mark.verdict}
      aria-pressed={pressed}
      aria-label={`${told}, ${where}. Show routes`}
      title={told}
      onClick={onOpen}
    >
      <VerdictMark
        verdict={mark.verdict}
        accessClass={mark.permission.accessClass as "view"}
        risk={riskOf(mark.permission)}
        share={mark.share}
      />
    </button>
  );
}

interface NamesProps {
  region: Region;
  marks: Mark[];
  onOpen: (mark: Mark) => void;
}

function MarkNames({ region, marks, onOpen }: NamesProps) {
  return (
    <>
      {region.members.length > 0 && (
        <p className="members">
          {region.members.join(", ")}
          {region.shape === "alike" && region.members.length >= 40 ? " …" : ""}
        </p>
      )}
      <ul className="mark-names">
        {marks.map((mark) => (
          <li key={mark.permission.key}>
            <button type="button" onClick={() => onOpen(mark)} title={mark.permission.description}>
              <VerdictMark
                verdict={mark.verdict}
                accessClass={mark.permission.accessClass as "view"}
                risk={riskOf(mark.permission)}
                share={mark.share}
              />
              {mark.permission.name} <small>{verdictInWords(mark)}</small>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
