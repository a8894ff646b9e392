import { useRef, useState, type KeyboardEvent } from "react";
import { Popover } from "antd";
import { Link } from "react-router";
import type { AccessClass, Risk } from "../../../app/theme";
import type { Schemas } from "../../../api/client";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { SubjectPicker } from "../../assign/components/Composer";
import type { Named } from "../../assign/model";
import { useEdit } from "../../draft/queries";
import { cellEdit, type CellWish } from "../model";
import { useMatrix, type MatrixView, type PlaceView } from "../queries";
import { CellMark } from "./CellMark";

type Row = MatrixView["rows"][number];
type Cell = Schemas["MatrixCell"];

/** Subjects by permissions on one place; a cell is set by a, d or Delete, or by its menu. */
export function Matrix({ place }: { place: PlaceView }) {
  const matrix = useMatrix(place.key);
  const edit = useEdit();
  const [added, setAdded] = useState<Named[]>([]);
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const table = useRef<HTMLTableElement>(null);
  if (matrix.isPending) return <Waiting what="the matrix" />;
  if (matrix.isError) {
    return <ProblemNote problem={matrix.error} onRetry={() => void matrix.refetch()} />;
  }
  const { permissions, assignments } = matrix.data;
  const rows: Row[] = [
    ...matrix.data.rows,
    ...added
      .filter((it) => !matrix.data.rows.some((row) => row.subject === it.ref))
      .map((it) => ({
        subject: it.ref,
        name: it.name,
        kind: it.ref.split(":")[0] ?? "",
        cells: {},
      })),
  ];

  function wish(row: Row, permission: string, want: CellWish) {
    const cell = row.cells[permission];
    const own =
      cell?.way === "own" ? { key: cell.assignment, deny: cell.effect === "deny" } : undefined;
    const change = cellEdit(place.key, row.subject, permission, want, own);
    if (change) edit.mutate([change]);
  }

  function move(to: [number, number]) {
    const next: [number, number] = [
      Math.max(0, Math.min(rows.length - 1, to[0])),
      Math.max(0, Math.min(permissions.length - 1, to[1])),
    ];
    setAt(next);
    table.current?.querySelector<HTMLButtonElement>(`[data-at="${next[0]}-${next[1]}"]`)?.focus();
  }

  function press(event: KeyboardEvent, r: number, c: number) {
    const steps: Record<string, [number, number]> = {
      ArrowDown: [r + 1, c],
      ArrowUp: [r - 1, c],
      ArrowRight: [r, c + 1],
      ArrowLeft: [r, c - 1],
    };
    const to = steps[event.key];
    const wishes: Record<string, CellWish> = { a: "allow", d: "deny", Delete: "nothing" };
    const want = wishes[event.key];
    const row = rows[r];
    const permission = permissions[c];
    if (to) {
      event.preventDefault();
      move(to);
    } else if (want && row && permission) {
      event.preventDefault();
      wish(row, permission.key, want);
    }
  }

  return (
    <>
      {edit.isError && <ProblemNote problem={edit.error} />}
      <p className="acts">
        <Field
          label="Add a subject"
          className="link"
          value="add a subject"
          picker={(close) => (
            <SubjectPicker
              without={rows.map((it) => it.subject)}
              onChoose={(it) => {
                setAdded([...added, it]);
                close();
              }}
            />
          )}
        />
        <span className="note">
          a gives, d denies, Delete takes away what is set here · arrows move
        </span>
      </p>
      {permissions.length === 0 ? (
        <p className="note">No permission applies to such a place.</p>
      ) : (
        <div className="matrix-box">
          <table className="matrix" ref={table}>
            <thead>
              <tr>
                <th scope="col">who</th>
                {permissions.map((it) => (
                  <th key={it.key} scope="col" title={it.description ?? it.name}>
                    <Link
                      to={`/ask/who?permission=${encodeURIComponent(it.key)}&on=${encodeURIComponent(place.key)}`}
                      aria-label={`Who can ${it.name} here`}
                    >
                      <span>{it.name}</span>
                    </Link>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.map((row, r) => (
                <tr key={row.subject}>
                  <th scope="row">
                    {pageOf(row.subject) ? (
                      <Link to={pageOf(row.subject) ?? ""}>{row.name}</Link>
                    ) : (
                      row.name
                    )}{" "}
                    <small>{row.kind}</small>
                  </th>
                  {permissions.map((permission, c) => {
                    const cell = row.cells[permission.key];
                    return (
                      <td key={permission.key}>
                        <CellMenu
                          cell={cell}
                          assignment={cell && assignments[cell.assignment]}
                          onWish={(want) => wish(row, permission.key, want)}
                        >
                          <button
                            type="button"
                            className={cell?.changed ? "cell changed" : "cell"}
                            data-at={`${r}-${c}`}
                            data-subject={row.subject}
                            data-permission={permission.key}
                            tabIndex={at[0] === r && at[1] === c ? 0 : -1}
                            aria-label={`${row.name}, ${permission.name}: ${told(cell)}`}
                            onFocus={() => setAt([r, c])}
                            onKeyDown={(event) => press(event, r, c)}
                          >
                            <CellMark
                              cell={cell}
                              accessClass={permission.accessClass as AccessClass}
                              risk={permission.risk as Risk}
                            />
                          </button>
                        </CellMenu>
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="note legend">
        full: set here · ring: inherited · small: implied · struck: denied · crossed: sealed off ·
        dashed: depends on the person or the moment
      </p>
    </>
  );
}

function pageOf(subject: string): string | undefined {
  const [kind, key] = subject.split(":");
  if (!key) return undefined;
  if (kind === "group") return `/groups/${key}`;
  return kind === "person" || kind === "service" ? `/people/${key}` : undefined;
}

export function told(cell: Cell | undefined): string {
  if (!cell) return "not assigned";
  return [
    cell.effect === "deny" ? "denied" : "given",
    { own: "here", inherited: "from above", implied: "by implication" }[cell.way],
    cell.sealedBy && `but sealed off at ${cell.sealedBy}`,
    cell.conditional && "under conditions",
  ]
    .filter(Boolean)
    .join(", ");
}

interface MenuProps {
  cell: Cell | undefined;
  assignment: Schemas["AssignmentView"] | undefined;
  onWish: (wish: CellWish) => void;
  children: React.ReactNode;
}

function CellMenu({ cell, assignment, onWish, children }: MenuProps) {
  const [open, setOpen] = useState(false);
  const choose = (want: CellWish) => {
    setOpen(false);
    onWish(want);
  };
  return (
    <Popover
      trigger="click"
      arrow={false}
      placement="bottomLeft"
      destroyOnHidden
      open={open}
      onOpenChange={setOpen}
      content={
        <div className="cell-menu">
          <p>{told(cell)}</p>
          {assignment && (
            <p className="note">
              {assignment.givesName}: {assignment.where}
            </p>
          )}
          <button type="button" onClick={() => choose("allow")}>
            give it here <kbd>a</kbd>
          </button>
          <button type="button" onClick={() => choose("deny")}>
            deny it here <kbd>d</kbd>
          </button>
          <button type="button" disabled={cell?.way !== "own"} onClick={() => choose("nothing")}>
            nothing here <kbd>Delete</kbd>
          </button>
        </div>
      }
    >
      {children}
    </Popover>
  );
}
