import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { pageOf } from "@/entities/thing/pages";
import { dateOf } from "@/shared/lib/words";
import { SavedViews } from "@/entities/view/SavedViews";
import { DataTable } from "@/shared/ui/DataTable";
import styles from "./TrailTable.module.css";

type Line = Schemas["TrailLine"];

function shown(thing: unknown): string {
  return thing === undefined || thing === null ? "nothing" : JSON.stringify(thing, null, 1);
}

/** Records of the trail; each opens to what was there before and after. */
export function TrailTable({ lines }: { lines: Line[] }) {
  const [open, setOpen] = useState<string>();
  const toggle = (key: string) => setOpen(open === key ? undefined : key);
  return (
    <DataTable
      label="Trail"
      tools="trail"
      exported
      extra={<SavedViews />}
      rows={lines}
      rowKey={(it) => String(it.seq)}
      detail={{ open: open ? [open] : [], render: (it) => <Details line={it} /> }}
      columns={[
        {
          key: "when",
          title: "When (UTC)",
          width: 150,
          quiet: true,
          render: (it) => dateOf(it.at).replace(" UTC", ""),
        },
        {
          key: "who",
          title: "Who",
          width: 170,
          card: "title",
          render: (it) => (
            <>
              {it.who ? (
                <Link to={`/people/${encodeURIComponent(it.who)}`}>{it.whoName ?? it.who}</Link>
              ) : (
                (it.whoName ?? "Mandala")
              )}
              {it.actingFor && <small> for {it.actingFor}</small>}
            </>
          ),
        },
        {
          key: "what",
          title: "What",
          render: (it) => (
            <button
              type="button"
              aria-expanded={open === String(it.seq)}
              onClick={() => toggle(String(it.seq))}
            >
              <strong>{it.act}</strong> {it.said}
              {it.act === "asked" && it.name && `: ${it.name}`}
            </button>
          ),
        },
      ]}
    />
  );
}

function Details({ line }: { line: Line }) {
  const page = line.kind ? pageOf(line.kind, line.thing) : undefined;
  return (
    <>
      <p className="note">
        record {line.seq} · from {line.address ?? "Mandala itself"} ·{" "}
        {line.revision !== undefined && `revision ${line.revision} · `}
        hash <code>{line.hash.slice(0, 16)}…</code>
      </p>
      {page && line.name && (
        <p>
          <Link to={page}>Open {line.name}</Link>
        </p>
      )}
      {(line.before !== undefined || line.after !== undefined) && (
        <div className="two">
          <pre className={styles["thing"]} aria-label="Before">
            {shown(line.before)}
          </pre>
          <pre className={styles["thing"]} aria-label="After">
            {shown(line.after)}
          </pre>
        </div>
      )}
    </>
  );
}
