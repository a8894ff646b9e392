import { useDeferredValue, useState } from "react";
import { Button, Progress } from "antd";
import { Link, useNavigate, useSearchParams } from "react-router";
import { useAccounts } from "../../../app/account";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { Choose } from "../../../components/Choose";
import { Waiting } from "../../../components/Waiting";
import type { Schemas } from "../../../api/client";
import { count, when } from "../../../lib/words";
import { useTakeBack } from "../../draft";
import { PlacePicker } from "../../places/components/PlacePicker";
import {
  useCancelExport,
  useExport,
  useExportState,
  useRevisions,
  useTrail,
  type Filter,
} from "../queries";

const ACTS = [
  "changed",
  "approved",
  "checked",
  "asked",
  "refused",
  "signed-in",
  "signed-out",
  "exported",
  "imported",
];
const STEP = 100;

/** Who did what, when and from where; folded by revision, filtered by a sentence. */
export function TrailPage() {
  const [params, setParams] = useSearchParams();
  const [limit, setLimit] = useState(STEP);
  const [typed, setTyped] = useState(params.get("text") ?? "");
  const text = useDeferredValue(typed);
  const revision = params.get("revision");
  const filter: Filter = {
    ...(params.get("who") && { who: params.get("who") ?? "" }),
    ...(params.get("act") && { act: params.get("act") ?? "" }),
    ...(params.get("place") && { place: params.get("place") ?? "" }),
    ...(params.get("from") && { from: `${params.get("from") ?? ""}T00:00:00Z` }),
    ...(params.get("until") && { until: `${params.get("until") ?? ""}T00:00:00Z` }),
    ...(text && { text }),
    ...(revision && { revision: Number(revision) }),
  };
  const trail = useTrail(filter, limit);

  function set(name: string, value: string) {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next);
    setLimit(STEP);
  }

  return (
    <>
      <h1 className="sentence">
        What{" "}
        <Field
          label="Who"
          value={params.get("who") ?? "anybody"}
          picker={(close) => (
            <ThingPicker
              kind="principals"
              label="Who"
              onChoose={(who) => {
                set("who", who);
                close();
              }}
            />
          )}
        />{" "}
        has{" "}
        <Field
          label="Act"
          value={params.get("act") ?? "done"}
          picker={(close) => (
            <Choose
              label="Act"
              value={params.get("act") ?? ""}
              options={[
                { value: "", label: "done" },
                ...ACTS.map((it) => ({ value: it, label: it })),
              ]}
              onChoose={(act) => {
                set("act", act);
                close();
              }}
            />
          )}
        />{" "}
        in{" "}
        <Field
          label="Place"
          value={params.get("place") ?? "any place"}
          picker={(close) => (
            <PlacePicker
              label="Place"
              onChoose={(place) => {
                set("place", place);
                close();
              }}
            />
          )}
        />
        , in words{" "}
        <input
          className="field-input"
          aria-label="Words in the line"
          placeholder="any words"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </h1>
      <p className="acts">
        <label>
          from{" "}
          <input
            type="date"
            className="plain-input"
            value={params.get("from") ?? ""}
            onChange={(event) => set("from", event.target.value)}
          />
        </label>
        <label>
          until{" "}
          <input
            type="date"
            className="plain-input"
            value={params.get("until") ?? ""}
            onChange={(event) => set("until", event.target.value)}
          />
        </label>
        {[...params.keys()].length > 0 && (
          <button
            type="button"
            className="link"
            onClick={() => {
              setTyped("");
              setParams({});
            }}
          >
            everything
          </button>
        )}
        <Exports filter={filter} />
      </p>
      <div className="trail">
        <div>
          {revision && <OneRevision number={Number(revision)} />}
          {trail.isPending ? (
            <Waiting what="the trail" />
          ) : trail.isError ? (
            <ProblemNote problem={trail.error} onRetry={() => void trail.refetch()} />
          ) : (
            <>
              <p className="count" role="status">
                {count(trail.data.total, "line")}
                {trail.data.limited && " of the accounts whose trail you may read, and your own"}
              </p>
              {trail.data.lines.length === 0 ? (
                <div className="empty">
                  <p>Nothing fits. Loosen a word of the sentence.</p>
                </div>
              ) : (
                <Lines lines={trail.data.lines} />
              )}
              {trail.data.total > trail.data.lines.length && (
                <Button size="small" onClick={() => setLimit(limit + 4 * STEP)}>
                  Older ones
                </Button>
              )}
            </>
          )}
        </div>
        <Revisions chosen={revision} onChoose={(it) => set("revision", it)} />
      </div>
    </>
  );
}

function Lines({ lines }: { lines: Schemas["TrailLine"][] }) {
  const [open, setOpen] = useState<number>();
  return (
    <table className="plain trail-lines">
      <thead>
        <tr>
          <th scope="col">when</th>
          <th scope="col">who</th>
          <th scope="col">what</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((it) => (
          <Line
            key={it.seq}
            line={it}
            open={open === it.seq}
            onOpen={() => setOpen(open === it.seq ? undefined : it.seq)}
          />
        ))}
      </tbody>
    </table>
  );
}

interface LineProps {
  line: Schemas["TrailLine"];
  open: boolean;
  onOpen: () => void;
}

function Line({ line, open, onOpen }: LineProps) {
  return (
    <>
      <tr className={open ? "opened" : undefined}>
        <td className="when-cell">{when(line.at)}</td>
        <th scope="row">
          {line.whoName ?? line.who ?? "the server"}
          {line.actingFor && <small> for {line.actingFor}</small>}
        </th>
        <td>
          <button type="button" aria-expanded={open} onClick={onOpen}>
            <em className={`act ${line.act}`}>{line.act}</em> {line.said}
            {line.act === "asked" && line.name && `: ${line.name}`}
          </button>
        </td>
      </tr>
      {open && (
        <tr className="opened">
          <td colSpan={3}>
            <p className="note">
              line {line.seq} · from {line.address ?? "inside"} ·{" "}
              {line.revision !== undefined && `revision ${line.revision} · `}
              hash {line.hash.slice(0, 16)}…
            </p>
            {(line.before ?? line.after) && (
              <div className="two">
                <pre aria-label="Before">{shown(line.before)}</pre>
                <pre aria-label="After">{shown(line.after)}</pre>
              </div>
            )}
          </td>
        </tr>
      )}
    </>
  );
}

function shown(thing: unknown): string {
  return thing === undefined || thing === null ? "nothing" : JSON.stringify(thing, null, 1);
}

function OneRevision({ number }: { number: number }) {
  const takeBack = useTakeBack();
  const navigate = useNavigate();
  return (
    <section className="one-revision" aria-label={`Revision ${number}`}>
      <h2 className="part">Revision {number}</h2>
      <p className="acts">
        <Button
          size="small"
          loading={takeBack.isPending}
          onClick={() =>
            takeBack.mutate(number, { onSuccess: (it) => void navigate(`/drafts/${it.id}`) })
          }
        >
          Take it back as a draft
        </Button>
        <Link to={`/ask?revision=${number}`}>Ask as the model stood then</Link>
      </p>
      {takeBack.isError && <ProblemNote problem={takeBack.error} />}
    </section>
  );
}

interface RevisionsProps {
  chosen: string | null;
  onChoose: (revision: string) => void;
}

function Revisions({ chosen, onChoose }: RevisionsProps) {
  const accounts = useAccounts();
  const readable = accounts.data?.accounts.some((it) => it.readable) ?? false;
  const revisions = useRevisions(readable);
  if (!revisions.data) return <aside />;
  return (
    <aside aria-label="Revisions">
      <h2 className="part">Revisions</h2>
      <ol className="revisions">
        {revisions.data.map((it) => (
          <li key={it.number}>
            <button
              type="button"
              aria-pressed={chosen === String(it.number)}
              onClick={() => onChoose(chosen === String(it.number) ? "" : String(it.number))}
            >
              <strong>{it.number}</strong> {it.title}
              <small>
                {it.author ?? "the server"}, {when(it.at)}
                {it.takesBack !== undefined && `, takes back ${it.takesBack}`}
              </small>
            </button>
          </li>
        ))}
      </ol>
    </aside>
  );
}

/** All results, not one page, into a file; in the background. */
function Exports({ filter }: { filter: Filter }) {
  const begin = useExport();
  const cancel = useCancelExport();
  const id = begin.data?.id;
  const state = useExportState(id);
  const it = state.data;
  return (
    <span className="trail-exports">
      {["csv", "xlsx"].map((format) => (
        <button
          key={format}
          type="button"
          className="link"
          onClick={() => begin.mutate({ format, filter })}
        >
          all to {format.toUpperCase()}
        </button>
      ))}
      {begin.isError && <ProblemNote problem={begin.error} />}
      {it?.state === "running" && (
        <>
          <Progress size="small" percent={it.of === 0 ? 0 : Math.round((100 * it.done) / it.of)} />
          <button type="button" className="link" onClick={() => cancel.mutate(it.id)}>
            cancel
          </button>
        </>
      )}
      {it?.state === "done" && (
        <a href={`/api/trail/exports/${it.id}/file`} download>
          fetch {count(it.done, "line")}
        </a>
      )}
      {it?.state === "failed" && <span className="wrong">The export failed. Try it again.</span>}
    </span>
  );
}
