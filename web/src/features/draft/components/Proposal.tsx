import { useState } from "react";
import { Button, Select } from "antd";
import { useHandle, type DraftView } from "@/entities/draft/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./SecondPerson.module.css";

/** Hands a draft that its owner may not apply to somebody who may. */
export function Proposal({ draft }: { draft: DraftView }) {
  const [to, setTo] = useState<string>();
  const handle = useHandle(draft.id);
  if (draft.appliers.length === 0) return null;
  return (
    <section className="warning" aria-label="Propose">
      <strong>Propose it to somebody who can apply it</strong>
      <p>They become its owner. They can change it, apply it or discard it.</p>
      <div className={styles["send"]}>
        <Select
          aria-label="Who can apply it"
          placeholder="Choose who can apply it"
          value={to}
          options={draft.appliers.map((it) => ({ value: it.key, label: it.name }))}
          showSearch={{ optionFilterProp: "label" }}
          onChange={setTo}
        />
        <Button
          loading={handle.isPending}
          disabled={!to}
          onClick={() => to && handle.mutate({ owner: to })}
        >
          Propose
        </Button>
      </div>
      {handle.isError && <ProblemAlert problem={handle.error} />}
    </section>
  );
}
