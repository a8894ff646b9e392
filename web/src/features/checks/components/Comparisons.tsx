import { Table } from "antd";
import { dateOf } from "@/shared/lib/words";
import { KINDS, type Comparison } from "../systems";
import styles from "./Systems.module.css";

/** How many differences there were at each comparison. */
export function Comparisons({ all }: { all: Comparison[] }) {
  return (
    <section className={styles["part"]} aria-label="Comparisons">
      <h2 className="part">Comparisons</h2>
      <Table<Comparison>
        size="small"
        rowKey="number"
        dataSource={all}
        pagination={{ pageSize: 10, hideOnSinglePage: true }}
        scroll={{ x: true }}
        columns={[
          {
            title: "When",
            render: (_, it) => (
              <>
                {dateOf(it.at)}
                <p className="note">
                  {it.sent ? "A table came in" : "Compared again"}, by {it.by}, terms version{" "}
                  {it.terms}
                </p>
              </>
            ),
          },
          { title: "Lines", align: "end", render: (_, it) => it.lines.toLocaleString("en") },
          ...KINDS.map(({ value, label }) => ({
            title: label,
            align: "end" as const,
            render: (_: unknown, it: Comparison) => it.kinds[value] ?? 0,
          })),
          { title: "Begun", align: "end", render: (_, it) => it.begun },
          { title: "Settled", align: "end", render: (_, it) => it.gone },
        ]}
      />
    </section>
  );
}
