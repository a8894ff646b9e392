import { useState } from "react";
import { Button, Checkbox } from "antd";
import { PersonField } from "@/entities/subject/PersonField";
import { ThingName } from "@/entities/thing/ThingName";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { Term } from "@/shared/ui/Term";
import { QuestionTabs } from "../components/QuestionTabs";
import styles from "./SideBySidePage.module.css";

function nameOf(key: string) {
  return key ? <ThingName kind="principals" reference={key} /> : "someone";
}

/** Two impersonated views in one window. */
export function SideBySidePage() {
  const [params, set] = useAddress();
  const left = params.get("left") ?? "";
  const right = params.get("right") ?? "";
  const [factor, setFactor] = useState(false);
  const begun = params.get("begun") === "1";
  return (
    <>
      <QuestionTabs />
      <Sentence>
        What would{" "}
        <PersonField
          label="Left"
          current={left}
          search="Left"
          value={nameOf(left)}
          onChoose={(it) => set({ left: it, begun: "" })}
        />{" "}
        see next to{" "}
        <Keep>
          <PersonField
            label="Right"
            current={right}
            search="Right"
            value={nameOf(right)}
            onChoose={(it) => set({ right: it, begun: "" })}
          />
          ?
        </Keep>
      </Sentence>
      {!begun || !left || !right ? (
        <EmptyState
          action={
            <Button
              type="primary"
              disabled={!left || !right}
              onClick={() => set({ begun: "1", factor: factor ? "1" : "" })}
            >
              Start both views
            </Button>
          }
        >
          Choose two people. Each half is an <Term word="impersonated view" />: it changes nothing,
          and the trail records both views.
          <br />
          <Checkbox checked={factor} onChange={(event) => setFactor(event.target.checked)}>
            With their second factors, where they are enrolled
          </Checkbox>
        </EmptyState>
      ) : (
        <div className={styles["halves"]}>
          {[left, right].map((key, at) => (
            <iframe
              key={`${key} ${at}`}
              title={`View of ${key}`}
              src={`/look?as=${encodeURIComponent(key)}&factor=${params.get("factor") ?? ""}`}
            />
          ))}
        </div>
      )}
    </>
  );
}
