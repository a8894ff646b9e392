import { useEffect, useState } from "react";
import { Button, Checkbox, Space } from "antd";
import { ThingName } from "@/entities/thing/ThingName";
import { nameOf } from "@/shared/lib/impersonation";
import { useAddress } from "@/shared/lib/useAddress";
import { DateField } from "@/shared/ui/DateField";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { useStartView } from "../queries";
import styles from "./StartViewPage.module.css";

/** Starts an impersonated view after a notice; inside a frame, at once. */
export function StartViewPage() {
  const [params] = useAddress();
  const key = params.get("as") ?? "";
  const framed = window.parent !== window;
  const [factor, setFactor] = useState(params.get("factor") === "1");
  const [day, setDay] = useState("");
  const start = useStartView(key, () => {
    const at = day ? `${day}T00:00:00Z` : (params.get("at") ?? undefined);
    window.name = nameOf({ key, factor, ...(at && { at }) });
    window.location.replace(params.get("to") ?? "/you");
  });
  const { mutate } = start;
  useEffect(() => {
    if (framed) mutate();
  }, [framed, mutate]);
  if (framed && !start.isError) return <Loading what="the view" />;
  return (
    <main className={styles["notice"]}>
      <h1>
        View Mandala as <ThingName kind="principals" reference={key} />
      </h1>
      <p>
        You start an <Term word="impersonated view" />: you see what they see and nothing else, and
        you can't change anything. The trail records that you viewed Mandala as them.
      </p>
      {!framed && (
        <>
          <Checkbox checked={factor} onChange={(event) => setFactor(event.target.checked)}>
            As if signed in with their second factor, if they are enrolled
          </Checkbox>
          <Space>
            On{" "}
            <DateField label="Date of the view" value={day} placeholder="today" onChange={setDay} />
          </Space>
          <Space>
            <Button type="primary" loading={start.isPending} onClick={() => mutate()}>
              Start view
            </Button>
            <Button onClick={() => window.history.back()}>Back</Button>
          </Space>
        </>
      )}
      {start.isError && <ProblemAlert problem={start.error} />}
    </main>
  );
}
