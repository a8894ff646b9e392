import { useState } from "react";
import { Button, Select } from "antd";
import { Link } from "react-router";
import { useTakeTidy } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { chosenAfter, REASONS, type Tidying, type TidyProposal } from "../tidy";
import styles from "./Tidy.module.css";

interface Row extends TidyProposal {
  place: number;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const COLUMNS: Column<Row>[] = [
  {
    key: "said",
    title: "What changes",
    card: "title",
    order: (it) => it.said.join(),
    text: (it) => it.said.join("; "),
    render: (it) => (
      <>
        {it.said.join("; ")}. <span className={styles["why"]}>{capital(it.why)}.</span>
        {it.needs.length > 0 && (
          <span className="note">
            {" "}
            Comes with {count(it.needs.length, "other proposal", "other proposals")}.
          </span>
        )}
      </>
    ),
  },
  {
    key: "reason",
    title: "Reason",
    width: 210,
    quiet: true,
    order: (it) => REASONS[it.reason] ?? it.reason,
    render: (it) => REASONS[it.reason] ?? it.reason,
  },
  {
    key: "account",
    title: "Account",
    width: 170,
    quiet: true,
    order: (it) => it.account ?? "",
    render: (it) => it.account ?? "All accounts",
  },
  {
    key: "fewer",
    title: "Fewer statements",
    width: 90,
    numeric: true,
    order: (it) => it.fewer,
    render: (it) => it.fewer,
  },
];

/** What can go, chosen one by one or all, and put into a draft. */
export function TidyProposals({ job, tidying }: { job: string; tidying: Tidying }) {
  const { steps } = tidying;
  const [chosen, setChosen] = useState<number[]>([]);
  const [reason, setReason] = useState("");
  const take = useTakeTidy(job);
  if (steps.length === 0) {
    return (
      <EmptyState title="Nothing can go">
        {tidying.part
          ? "Everything that you can change is needed. There may be proposals for others."
          : "Each role, set, member and assignment does something that no other one does."}
      </EmptyState>
    );
  }
  const rows = steps.map((it, place) => ({ ...it, place }));
  const shown = rows.filter((it) => !reason || it.reason === reason);
  const total = (places: number[]) => places.reduce((sum, it) => sum + (steps[it]?.fewer ?? 0), 0);
  const all = steps.map((_, place) => place);
  return (
    <>
      <div className={styles["bar"]}>
        <Select
          aria-label="Reason"
          value={reason}
          onChange={setReason}
          popupMatchSelectWidth={false}
          options={[
            { value: "", label: `Any reason (${steps.length})` },
            ...Object.entries(REASONS)
              .map(([value, label]) => ({
                value,
                label: `${label} (${steps.filter((it) => it.reason === value).length})`,
              }))
              .filter(({ value }) => steps.some((it) => it.reason === value)),
          ]}
        />
        {tidying.changes ? (
          <>
            <Button
              type="primary"
              loading={take.isPending}
              onClick={() => take.mutate(chosen.length > 0 ? chosen : all)}
            >
              {chosen.length > 0
                ? `Add ${count(chosen.length, "proposal", "proposals")} to a new draft`
                : `Add all ${steps.length} to a new draft`}
            </Button>
            <span className="note">
              {count(total(chosen.length > 0 ? chosen : all), "statement")} fewer; nobody gains or
              loses anything.
            </span>
          </>
        ) : (
          <span className="note">
            You can read these proposals. To add them to a draft, you need to be able to change
            rights or access.
          </span>
        )}
      </div>
      {take.isError && <ProblemAlert problem={take.error} />}
      {take.data && (
        <p role="status">
          {count(take.data.changes, "change")} {take.data.changes === 1 ? "is" : "are"} in a new
          draft. <Link to={`/drafts/${take.data.draft}`}>Open the draft</Link>
        </p>
      )}
      <DataTable
        label="Proposals"
        tools="tidy"
        rows={shown}
        rowKey={(it) => `${it.place}`}
        columns={COLUMNS}
        {...(tidying.changes && {
          selection: {
            chosen: chosen.map(String),
            onChange: (keys: string[]) => {
              const hidden = chosen.filter((it) => !shown.some((row) => row.place === it));
              setChosen(chosenAfter(steps, chosen, [...hidden, ...keys.map(Number)]));
            },
            name: (it: Row) => it.said.join("; "),
          },
        })}
      />
      {tidying.part && (
        <p className="note">Only what you can {tidying.changes ? "change" : "read"} is listed.</p>
      )}
    </>
  );
}
