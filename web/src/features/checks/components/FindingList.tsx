import { useState } from "react";
import { Button } from "antd";
import { SavedViews } from "@/entities/view/SavedViews";
import { Problem } from "@/shared/api/client";
import { fileAddress } from "@/shared/lib/fileAddress";
import { useAddress } from "@/shared/lib/useAddress";
import { dateOf } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { FileButtons } from "@/shared/ui/FileButtons";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { filterOf, isNarrowed } from "../model";
import { useFindings, type FindingList as Answer } from "../queries";
import { FindingActs } from "./FindingActs";
import { FindingDetail } from "./FindingDetail";
import { FindingFilters } from "./FindingFilters";
import { findingColumns } from "./findingColumns";

/** Broken rules and what detectors found; each opens with what settles it. */
export function FindingList() {
  const [params] = useAddress();
  const filter = filterOf(params);
  const found = useFindings(filter);
  const [open, setOpen] = useState<string>();
  const [chosen, setChosen] = useState<string[]>([]);
  if (found.isPending) return <Loading what="the findings" />;
  if (found.isError && found.error instanceof Problem && found.error.status === 403) {
    return (
      <NoAccess what="findings">
        A finding is a broken rule, or access that is unused, left over or too broad.
      </NoAccess>
    );
  }
  if (found.isError) {
    return <ProblemAlert problem={found.error} onRetry={() => void found.refetch()} />;
  }
  const [first] = found.data.pages;
  if (!first) return null;
  const findings = found.data.pages.flatMap((it) => it.findings);
  const selected = findings.filter((it) => chosen.includes(it.id));
  const more = first.total - findings.length;
  return (
    <section aria-label="Findings">
      <FindingFilters list={first} />
      {selected.length > 0 && <FindingActs chosen={selected} onClear={() => setChosen([])} />}
      <DataTable
        label="Findings"
        tools="findings"
        exported
        extra={
          <>
            <FileButtons
              of={(format) => fileAddress("/api/findings/file", { ...filter }, format)}
            />
            <SavedViews />
          </>
        }
        rows={findings}
        rowKey={(it) => it.id}
        rowClass={(it) => (it.state === "resolved" ? "quiet" : undefined)}
        selection={{ chosen, onChange: setChosen, name: (it) => it.said }}
        detail={{
          open: open === undefined ? [] : [open],
          render: (it) => <FindingDetail finding={it} />,
        }}
        columns={findingColumns(open, (id) => setOpen(id === open ? undefined : id))}
        empty={<Nothing narrowed={isNarrowed(filter)} looked={first.lookedAt !== undefined} />}
      />
      {more > 0 && (
        <Button loading={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
          Show more ({more.toLocaleString("en")} left)
        </Button>
      )}
      <Foot list={first} />
    </section>
  );
}

function Nothing({ narrowed, looked }: { narrowed: boolean; looked: boolean }) {
  if (narrowed) return <EmptyState>No findings match these filters. Clear a filter.</EmptyState>;
  return (
    <EmptyState>
      {looked
        ? "No findings. Add an expectation or an exclusion to have more checked."
        : "Mandala is looking for findings. The first ones appear within a few minutes."}
    </EmptyState>
  );
}

/** When it was looked, and what was left out. */
function Foot({ list }: { list: Answer }) {
  return (
    <>
      {list.lookedAt && (
        <p className="note">
          Last looked {dateOf(list.lookedAt)}. Rules are checked after every revision, all else
          within minutes. Size is exposure, or how many cases there are.
        </p>
      )}
      {list.cut.length > 0 && (
        <p className="note">
          Not everything was looked at, because the model is large: {list.cut.join(", ")}.
        </p>
      )}
      {list.elsewhere && (
        <p className="note">There are also findings in accounts where you can't see people.</p>
      )}
    </>
  );
}
