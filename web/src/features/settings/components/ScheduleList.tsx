import { Table } from "antd";
import { useMay } from "@/entities/account/queries";
import type { Schemas } from "@/shared/api/client";
import { capital, dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useSchedule } from "../queries";
import styles from "../pages/SettingsPage.module.css";

type Recurrence = Schemas["Recurrence"];

/** What the server does by itself, when next, and how it went last. */
export function ScheduleList() {
  const manages = useMay("mandala.settings.manage");
  const schedule = useSchedule(manages);
  if (!manages) return null;
  return (
    <>
      <h1 className={styles["title"]}>Schedule</h1>
      <section className={styles["wide"]} aria-label="Schedule">
        {schedule.isError && (
          <ProblemAlert problem={schedule.error} onRetry={() => void schedule.refetch()} />
        )}
        <Table<Recurrence>
          size="small"
          rowKey="name"
          loading={schedule.isPending}
          dataSource={schedule.data?.works ?? []}
          pagination={false}
          columns={[
            { title: "What", dataIndex: "description" },
            { title: "Next", render: (_, it) => (it.next ? dateOf(it.next) : "when it starts") },
            {
              title: "Last",
              render: (_, it) =>
                it.last ? (
                  <>
                    {capital(it.outcome ?? "")}, {dateOf(it.last)}
                    {it.remark && <p className="warning">{it.remark}</p>}
                  </>
                ) : (
                  "never yet"
                ),
            },
          ]}
        />
      </section>
    </>
  );
}
