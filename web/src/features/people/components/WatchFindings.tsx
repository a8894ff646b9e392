import { Link } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { count, dateOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { doneInWords, useWatchPreview, type WatchOrder, type WatchRuleView } from "../watch";

/** What a rule did, with the revision in which it can be reverted. */
export function WatchDone({ rule }: { rule: WatchRuleView }) {
  if (rule.done.length === 0) return null;
  return (
    <section aria-label="What it did">
      <h2 className="part">What it did</h2>
      <ul>
        {rule.done.map((it) => (
          <li key={it.at + it.act}>
            {dateOf(it.at)}: {doneInWords(it)}
            {it.revision !== undefined && (
              <>
                {" in "}
                <Link to={`/trail?revision=${it.revision}`}>revision {it.revision}</Link>, where it
                can be reverted
              </>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What a rule would do today. */
export function WatchToday({ rule }: { rule: WatchOrder }) {
  const preview = useWatchPreview(rule);
  return (
    <section aria-label="Today">
      <h2 className="part">Today</h2>
      {preview.isError && <ProblemAlert problem={preview.error} />}
      {preview.data && (
        <>
          <p role="status">{todayInWords(rule, preview.data)}</p>
          <DataTable<Schemas["WatchedView"]>
            label="Whom it finds"
            rows={preview.data.first}
            rowKey={(it) => it.key}
            columns={columns}
            empty="Nobody."
          />
        </>
      )}
    </section>
  );
}

function todayInWords(rule: WatchOrder, { acts, warns }: Schemas["WatchPreview"]): string {
  if (rule.what === "services") return `It would report ${count(warns, "service")} today.`;
  const many = (it: number) => (it === 0 ? "nobody" : count(it, "person", "people"));
  return `It would ${rule.warnAfter ? `warn ${many(warns)} and ` : ""}act on ${many(acts)} today.`;
}

const WORDS: Record<string, string> = {
  acts: "acts today",
  warns: "warns today",
  waits: "was warned",
};

const columns: Column<Schemas["WatchedView"]>[] = [
  {
    key: "name",
    title: "name",
    card: "title",
    render: (it) => <Link to={`/people/${encodeURIComponent(it.key)}`}>{it.name}</Link>,
    order: (it) => it.name,
  },
  {
    key: "account",
    title: "account",
    render: (it) => it.accountName,
    order: (it) => it.accountName,
  },
  {
    key: "since",
    title: "not seen since",
    render: (it) => dateOf(it.since),
    order: (it) => it.since,
  },
  {
    key: "what",
    title: "what happens",
    quietTitle: true,
    render: (it) => WORDS[it.what] ?? it.what,
  },
];
