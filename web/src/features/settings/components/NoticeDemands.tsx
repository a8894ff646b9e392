import { Select } from "antd";
import { useAccounts } from "@/entities/account/queries";
import {
  DELIVERY,
  useDemandNotice,
  useNoticeDemands,
  type Delivery,
} from "@/entities/notice/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "../pages/SettingsPage.module.css";

const LEAST: Record<Delivery, string> = { ...DELIVERY, here: "As each person chooses" };

/** What an account demands at least of the notices of its people. */
export function NoticeDemands() {
  const accounts = useAccounts();
  const root = accounts.data?.accounts.find((it) => it.readable && it.depth === 0);
  const demands = useNoticeDemands(root?.key ?? "");
  const demand = useDemandNotice(root?.key ?? "");
  if (!root || !demands.data?.mine) return null;
  return (
    <>
      <h1 className={styles["title"]}>Notices</h1>
      <section className={styles["setting"]} aria-label="Notices">
        <p>
          Each person chooses how notices come. What {root.name} asks for here comes at least once a
          day, or at once, whatever they choose.
        </p>
        {demands.data.demands.map((it) => (
          <div key={it.kind}>
            {it.title}:{" "}
            <Select<Delivery>
              size="small"
              aria-label={it.title}
              value={it.delivery as Delivery}
              popupMatchSelectWidth={false}
              options={(["here", "digest", "mail"] as const).map((value) => ({
                value,
                label: LEAST[value],
              }))}
              onChange={(delivery) => demand.mutate({ kind: it.kind, delivery })}
            />
          </div>
        ))}
        {demand.isError && <ProblemAlert problem={demand.error} />}
        {demand.isSuccess && <p role="status">Saved.</p>}
      </section>
    </>
  );
}
