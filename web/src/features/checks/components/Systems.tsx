import { lazy, Suspense, useState } from "react";
import { Button, Select } from "antd";
import { Problem } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useSystems } from "../systems";
import { SystemPart } from "./SystemPart";
import styles from "./Systems.module.css";

const SystemForm = lazy(() => import("./SystemForm"));

/** Connected systems, and where what they hold differs from the model. */
export default function Systems() {
  const [params, set] = useAddress();
  const list = useSystems();
  const [adding, setAdding] = useState(false);
  if (list.isPending) return <Loading what="the systems" />;
  if (list.isError && list.error instanceof Problem && list.error.status === 403) {
    return (
      <NoAccess what="connected systems">
        A connected system says what its people hold; Mandala compares it with the model.
      </NoAccess>
    );
  }
  if (list.isError) {
    return <ProblemAlert problem={list.error} onRetry={() => void list.refetch()} />;
  }
  const { systems, accounts } = list.data;
  const system = systems.find((it) => it.key === params.get("system")) ?? systems[0];
  const add = accounts.length > 0 && <Button onClick={() => setAdding(true)}>New system</Button>;
  return (
    <section aria-label="Systems">
      {system ? (
        <>
          <div className={styles["bar"]}>
            <Select
              aria-label="System"
              value={system.key}
              onChange={(key) => set({ system: key })}
              popupMatchSelectWidth={false}
              options={systems.map((it) => ({ value: it.key, label: it.name }))}
            />
            <span className="note">{system.accountName}</span>
            {add}
          </div>
          <SystemPart key={system.key} system={system} accounts={accounts} />
        </>
      ) : (
        <EmptyState title="No systems yet">
          Connect a system to compare what its people hold with what the model allows. {add}
        </EmptyState>
      )}
      {adding && (
        <Suspense>
          <SystemForm
            accounts={accounts}
            taken={systems.map((it) => it.key)}
            onClose={(key) => {
              setAdding(false);
              if (key) set({ system: key });
            }}
          />
        </Suspense>
      )}
    </section>
  );
}
