import { useState } from "react";
import { Input, Select } from "antd";
import { useAddress } from "@/shared/lib/useAddress";
import { count } from "@/shared/lib/words";
import { DataTable } from "@/shared/ui/DataTable";
import { EmptyState } from "@/shared/ui/EmptyState";
import { FileButtons } from "@/shared/ui/FileButtons";
import {
  discrepancyFile,
  KINDS,
  STATES,
  type Discrepancy,
  type DiscrepancyFilter,
  type DiscrepancyList,
  type System,
} from "../systems";
import { DiscrepancyActs } from "./DiscrepancyActs";
import { DiscrepancyDetail, discrepancyColumns } from "./discrepancyColumns";
import styles from "./Systems.module.css";

interface Props {
  system: System;
  list: DiscrepancyList;
  filter: DiscrepancyFilter;
}

/** Where a system differs: chosen ones are accepted, or made so in the model. */
export function Discrepancies({ system, list, filter }: Props) {
  const [chosen, setChosen] = useState<string[]>([]);
  const [open, setOpen] = useState<string>();
  const rows = list.discrepancies;
  const selected = rows.filter((it) => chosen.includes(it.id));
  const narrowed = filter.kind || filter.state || filter.text;
  return (
    <section className={styles["differences"]} aria-label="Differences">
      <Filters list={list} filter={filter} />
      <DiscrepancyActs system={system} chosen={selected} onClear={() => setChosen([])} />
      <DataTable
        label="Differences"
        tools="differences"
        exported
        extra={<FileButtons of={(format) => discrepancyFile(system.key, filter, format)} />}
        rows={rows}
        rowKey={(it) => it.id}
        rowClass={(it) => (it.state === "settled" ? "quiet" : undefined)}
        {...(rows.some((it) => it.mine) && {
          selection: { chosen, onChange: setChosen, name: (it: Discrepancy) => it.said },
        })}
        detail={{
          open: open === undefined ? [] : [open],
          render: (it) => <DiscrepancyDetail of={it} />,
        }}
        columns={discrepancyColumns(open, (id) => setOpen(id === open ? undefined : id))}
        empty={
          <EmptyState>
            {narrowed
              ? "No differences match these filters. Clear a filter."
              : "The system holds what the model allows."}
          </EmptyState>
        }
      />
      {list.total > rows.length && (
        <p className="note">
          The first {rows.length} of {list.total.toLocaleString("en")} are listed. Narrow the list
          to see the others.
        </p>
      )}
      <Foot list={list} />
    </section>
  );
}

function Filters({ list, filter }: { list: DiscrepancyList; filter: DiscrepancyFilter }) {
  const [, set] = useAddress();
  const all = Object.values(list.kinds).reduce((sum, it) => sum + it, 0);
  return (
    <div className={styles["bar"]}>
      <Select
        aria-label="Kind"
        value={filter.kind ?? ""}
        onChange={(kind) => set({ kind })}
        popupMatchSelectWidth={false}
        options={[
          { value: "", label: `Any kind (${all})` },
          ...KINDS.map(({ value, label, means }) => ({
            value,
            label: `${label} (${list.kinds[value] ?? 0})`,
            title: means,
          })),
        ]}
      />
      <Select
        aria-label="State"
        value={filter.state ?? ""}
        onChange={(state) => set({ state })}
        popupMatchSelectWidth={false}
        options={STATES}
      />
      <Input
        aria-label="Name"
        placeholder="Name"
        allowClear
        className={styles["name"] ?? ""}
        value={filter.text ?? ""}
        onChange={(it) => set({ text: it.target.value }, { replace: true })}
      />
    </div>
  );
}

/** What was not compared, and what agrees. */
function Foot({ list }: { list: DiscrepancyList }) {
  const none = Object.entries(list.untranslated);
  return (
    <>
      {list.agreeing !== undefined && (
        <p className="note">
          In {list.agreeing.toLocaleString("en")} cases someone holds a permission exactly where the
          model allows it.
        </p>
      )}
      {none.length > 0 && (
        <p className="note">
          Not compared, because the terms don’t list it:{" "}
          {none.map(([what, many]) => `${what} (${count(many, "line")})`).join(", ")}.
        </p>
      )}
      {list.elsewhere && (
        <p className="note">There are also differences about people you can’t see.</p>
      )}
    </>
  );
}
