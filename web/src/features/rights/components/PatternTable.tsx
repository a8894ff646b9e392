import { Link } from "react-router";
import { useAccountNames } from "@/entities/account/queries";
import { AssignmentList } from "@/entities/assignment/AssignmentList";
import { usePatternPage, type ThingView } from "@/entities/thing/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { accountColumn, DESCRIPTION, unfoldingColumn } from "./columns";
import { NewThing } from "./NewThing";

/** Patterns; each opens to what it gives, and to whom. */
export function PatternTable({ patterns }: { patterns: ThingView[] }) {
  const accountName = useAccountNames();
  const [params, set] = useAddress();
  const open = params.get("open") ?? "";
  return (
    <>
      <div className="acts">
        <NewThing kind="patterns" label="New pattern" />
      </div>
      <DataTable
        label="Patterns"
        tools="patterns"
        rows={patterns}
        rowKey={(it) => it.key ?? ""}
        rowClass={(it) => it.mark}
        detail={{ open: open ? [open] : [], render: (it) => <Gives pattern={it.key ?? ""} /> }}
        columns={[
          unfoldingColumn("Pattern", open, (it) => set({ open: it })),
          DESCRIPTION,
          accountColumn(accountName),
        ]}
      />
    </>
  );
}

/** What a pattern gives, and who has it. */
function Gives({ pattern }: { pattern: string }) {
  const page = usePatternPage(pattern);
  if (page.isPending) return <Loading what="the pattern" rows={3} />;
  if (page.isError) {
    return <ProblemAlert problem={page.error} onRetry={() => void page.refetch()} />;
  }
  const { size, people, gives } = page.data;
  return (
    <>
      <h3>Gives</h3>
      <AssignmentList label="What the pattern gives" assignments={gives} hide="subject" />
      <h3>To {count(size, "person", "people")}</h3>
      {people.length === 0 ? (
        <p className="note">No one that you can see has it.</p>
      ) : (
        <ul className="plain-list" aria-label="People with the pattern">
          {people.map((it) => (
            <li key={it.key} className={it.active ? undefined : "quiet"}>
              <Link to={`/people/${encodeURIComponent(it.key)}`}>{it.name}</Link>
            </li>
          ))}
        </ul>
      )}
      {size > people.length && (
        <p className="note">and {count(size - people.length, "more person", "more people")}</p>
      )}
    </>
  );
}
