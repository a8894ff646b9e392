import { Alert, Button, Tag } from "antd";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { download } from "@/shared/lib/download";
import { count } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { numbersInWords, type PersonnelPreview } from "../personnel";

type Line = Schemas["PersonnelLineView"];

const STATES: Record<Line["state"], string> = {
  faulty: "error",
  leaves: "leaves",
  returns: "comes back",
  joins: "joins",
  changes: "changes",
};

const columns: Column<Line>[] = [
  { key: "line", title: "Line", numeric: true, width: 70, render: (it) => it.line ?? "–" },
  { key: "number", title: "Number", width: 110, quiet: true, render: (it) => it.number },
  {
    key: "name",
    title: "Name",
    card: "title",
    render: (it) =>
      it.person === undefined ? (
        it.name
      ) : (
        <Link to={`/people/${encodeURIComponent(it.person)}`}>{it.name}</Link>
      ),
  },
  { key: "state", title: "State", width: 120, render: (it) => <Tag>{STATES[it.state]}</Tag> },
  {
    key: "says",
    title: "What changes, or what is wrong",
    render: (it) =>
      it.state === "leaves" && it.line === undefined
        ? "missing from the list"
        : it.says.join(it.state === "faulty" ? " " : " · "),
  },
];

/** What a personnel list does: how many, why it stops, and its lines. */
export function PersonnelLines({ preview }: { preview: PersonnelPreview }) {
  const all = preview.faulty + preview.leaves + preview.returns + preview.joins + preview.changes;
  const { notTaken } = preview;
  return (
    <>
      {preview.tooMany && (
        <Alert
          type="warning"
          showIcon
          title={preview.tooMany}
          description="Look whether the list is whole before you take it."
          style={{ margin: "12px 0" }}
        />
      )}
      <p role="status">
        {numbersInWords(preview)} · {preview.unchanged.toLocaleString("en")} as they are
        {preview.faulty > 0 && ` · ${count(preview.faulty, "line")} with errors`}
      </p>
      {all > 0 && (
        <DataTable<Line>
          label="Lines of the list"
          rows={preview.first}
          rowKey={(it) => `${it.state} ${it.line ?? ""} ${it.number} ${it.person ?? it.name}`}
          columns={columns}
        />
      )}
      {preview.first.length < all && (
        <p className="note">
          {preview.first.length} of {all.toLocaleString("en")} are shown, errors and leavers first.
        </p>
      )}
      {notTaken !== undefined && (
        <div className="acts">
          <Button size="small" onClick={() => download("not-taken.csv", notTaken)}>
            Export {count(preview.faulty, "line")} with errors
          </Button>
          <span className="quiet">Whom they name stays as they are.</span>
        </div>
      )}
    </>
  );
}
