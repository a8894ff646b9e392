import { useRef, useState, type KeyboardEvent } from "react";
import { Select } from "antd";
import { Link } from "react-router";
import { useEdit } from "@/entities/draft/queries";
import { useMay } from "@/entities/account/queries";
import { useMatrix, type MatrixView, type PlaceView } from "@/entities/place/queries";
import { subjectPage, type Named } from "@/entities/subject/model";
import { SubjectPicker } from "@/entities/subject/SubjectPicker";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useNarrow } from "@/shared/ui/useNarrow";
import { cellEdit, type CellWish } from "../model";
import styles from "./Matrix.module.css";
import { MatrixCell } from "./MatrixCell";

type Row = MatrixView["rows"][number];

/** Keys that set the focused cell. */
const WISHES: Record<string, CellWish> = { a: "allow", d: "deny", Delete: "nothing" };

const STEPS: Record<string, [number, number]> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};

/** Subjects by permissions on one place. On a narrow screen, one permission at a time. */
export function Matrix({ place }: { place: PlaceView }) {
  const matrix = useMatrix(place.key);
  const mayAssign = useMay("mandala.access.assign");
  const edit = useEdit();
  const narrow = useNarrow();
  const [added, setAdded] = useState<Named[]>([]);
  const [column, setColumn] = useState("");
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const table = useRef<HTMLTableElement>(null);
  if (matrix.isPending) return <Loading what="the matrix" />;
  if (matrix.isError) {
    return <ProblemAlert problem={matrix.error} onRetry={() => void matrix.refetch()} />;
  }
  const { permissions: all, assignments } = matrix.data;
  const permissions = narrow ? all.filter((it, i) => (column ? it.key === column : i === 0)) : all;
  const rows = withAdded(matrix.data.rows, added);

  function wish(row: Row, permission: string, want: CellWish) {
    const cell = row.cells[permission];
    const own =
      cell?.way === "own" ? { key: cell.assignment, deny: cell.effect === "deny" } : undefined;
    const change = cellEdit(place.key, row.subject, permission, want, own);
    if (change) edit.mutate([change]);
  }

  function move(row: number, step: [number, number], col: number) {
    const next: [number, number] = [
      Math.max(0, Math.min(rows.length - 1, row + step[0])),
      Math.max(0, Math.min(permissions.length - 1, col + step[1])),
    ];
    setAt(next);
    table.current?.querySelector<HTMLButtonElement>(`[data-at="${next.join("-")}"]`)?.focus();
  }

  function press(event: KeyboardEvent, r: number, c: number) {
    const step = STEPS[event.key];
    const want = WISHES[event.key];
    const row = rows[r];
    const permission = permissions[c];
    if (!step && !want) return;
    event.preventDefault();
    if (step) move(r, step, c);
    else if (want && row && permission && mayAssign) wish(row, permission.key, want);
  }

  return (
    <>
      {edit.isError && <ProblemAlert problem={edit.error} />}
      <div className="acts">
        {mayAssign && (
          <InlinePicker
            label="Subjects"
            look="button"
            value="Add a subject"
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
        )}
        <span className="note">
          {mayAssign ? (
            <>
              Press <kbd>a</kbd> to grant, <kbd>d</kbd> to deny, <kbd>Delete</kbd> to clear what is
              set here; arrows move.
            </>
          ) : (
            <>
              Arrows move; <kbd>Enter</kbd> tells by which assignment.
            </>
          )}
        </span>
      </div>
      {narrow && all.length > 0 && (
        <Select
          aria-label="Permission"
          style={{ width: "100%" }}
          value={permissions[0]?.key ?? ""}
          options={all.map((it) => ({ value: it.key, label: it.name }))}
          onChange={setColumn}
        />
      )}
      {all.length === 0 ? (
        <p className="note">No permission applies to places of this type.</p>
      ) : (
        <div className={styles["box"]}>
          <table className={styles["matrix"]} ref={table}>
            <caption className="hidden-text">Access matrix of {place.name}</caption>
            <thead>
              <tr>
                <th scope="col">Subject</th>
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
                    <SubjectName row={row} />
                  </th>
                  {permissions.map((permission, c) => (
                    <td key={permission.key}>
                      <MatrixCell
                        row={row}
                        permission={permission}
                        assignments={assignments}
                        position={`${r}-${c}`}
                        current={at[0] === r && at[1] === c}
                        onFocus={() => setAt([r, c])}
                        onKeyDown={(event) => press(event, r, c)}
                        onWish={mayAssign ? (want) => wish(row, permission.key, want) : undefined}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="note">
        full: set here · ring: inherited · small: implied · struck: denied · crossed: sealed off ·
        dashed: depends on the person or the time
      </p>
    </>
  );
}

function withAdded(rows: Row[], added: Named[]): Row[] {
  const fresh = added.filter((it) => !rows.some((row) => row.subject === it.ref));
  return [
    ...rows,
    ...fresh.map((it) => ({
      subject: it.ref,
      name: it.name,
      kind: it.ref.split(":")[0] ?? "",
      cells: {},
    })),
  ];
}

function SubjectName({ row }: { row: Row }) {
  const page = subjectPage(row.subject);
  return (
    <>
      {page ? <Link to={page}>{row.name}</Link> : row.name} <small>{row.kind}</small>
    </>
  );
}
