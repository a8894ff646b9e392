import { DatePicker, Segmented } from "antd";
import dayjs from "dayjs";
import type { Trim } from "@/entities/access/excess";
import { count, dayOf } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import type { RareFate } from "./trim";

interface Props {
  trim: Trim;
  fates: Record<string, RareFate>;
  onFate: (key: string, fate: RareFate) => void;
  until: string;
  onUntil: (until: string) => void;
}

const FATES: { value: RareFate; label: string }[] = [
  { value: "leave", label: "Leave" },
  { value: "just-in-time", label: "Just-in-time" },
  { value: "end", label: "End" },
];

/** What is held all the time and used on few days: to be activated when needed, or to end. */
export default function RareAssignments({ trim, fates, onFate, until, onUntil }: Props) {
  const columns: Column<Trim["rare"][number]>[] = [
    { key: "said", title: "Assignment", render: (row) => row.said, card: "title" },
    {
      key: "days",
      title: "Used",
      width: 190,
      render: (row) => `${count(row.days, "day")}, last on ${dayOf(row.last)}`,
    },
    {
      key: "fate",
      title: "What to do",
      width: 250,
      render: (row) => (
        <Segmented
          size="small"
          aria-label={`What to do with ${row.said}`}
          options={FATES}
          value={fates[row.key] ?? "leave"}
          onChange={(fate) => onFate(row.key, fate)}
        />
      ),
    },
  ];
  const ends = Object.values(fates).includes("end");
  return (
    <section aria-label="Rarely used">
      <h3>Used on at most {count(trim.rareDays, "day")}</h3>
      <p className="note">
        These are used, so nothing here is changed unless you choose it. A just-in-time assignment
        counts only while its holder has activated it.
      </p>
      <DataTable
        label="Rarely used assignments"
        rows={trim.rare}
        columns={columns}
        rowKey={(row) => row.key}
        tools={undefined}
      />
      {ends && (
        <p>
          <label>
            They end on{" "}
            <DatePicker
              size="small"
              allowClear={false}
              value={dayjs(until)}
              minDate={dayjs().add(1, "day")}
              onChange={(day) => day && onUntil(day.endOf("day").toISOString())}
            />
          </label>
        </p>
      )}
    </section>
  );
}
