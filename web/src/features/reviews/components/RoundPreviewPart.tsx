import type { UseQueryResult } from "@tanstack/react-query";
import { Alert } from "antd";
import { count } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { Preview } from "../queries";

type Load = Preview["loads"][number];

/** What a round would ask, and how much each reviewer gets. */
export function RoundPreviewPart({ preview }: { preview: UseQueryResult<Preview> }) {
  if (preview.isPending) return <Loading what="the count" />;
  if (preview.isError) {
    return <ProblemAlert problem={preview.error} onRetry={() => void preview.refetch()} />;
  }
  const it = preview.data;
  if (it.items === 0) {
    return <p className="note">Nothing is in this review. Choose more, or a lower risk.</p>;
  }
  return (
    <section aria-label="What it asks">
      <h2 className="part">
        <span role="status">
          {count(it.items, "item")} of {count(it.subjects, "person or thing", "people and things")},{" "}
          {count(it.reviewers, "reviewer")}
        </span>
      </h2>
      {it.nobody > 0 && (
        <Alert
          type="warning"
          showIcon
          title={`${count(it.nobody, "item has", "items have")} no reviewer. Add somebody who decides where there is no one else.`}
          description={it.without.slice(0, 4).join("; ")}
        />
      )}
      {it.conflicts > 0 && (
        <p className="note">
          {count(it.conflicts, "item is", "items are")} marked: the reviewer granted it, or two
          review each other.
        </p>
      )}
      <DataTable<Load>
        label="Reviewers"
        rows={it.loads.slice(0, 12)}
        rowKey={(load) => load.who ?? load.name}
        columns={[
          { key: "name", title: "reviewer", render: (load) => load.name },
          {
            key: "items",
            title: "items",
            numeric: true,
            width: 100,
            render: (load) => load.items.toLocaleString("en"),
          },
        ]}
      />
      {it.reviewers > 12 && <p className="note">and {count(it.reviewers - 12, "more reviewer")}</p>}
    </section>
  );
}
