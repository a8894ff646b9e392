import { useState } from "react";
import { Button } from "antd";
import { Link } from "react-router";
import { pageOfUse } from "@/entities/access/excess";
import { useAsks } from "@/entities/account/queries";
import { LazyComposer } from "@/entities/assignment/LazyComposer";
import { useEdit } from "@/entities/draft/queries";
import { refOf } from "@/entities/subject/model";
import { PersonField } from "@/entities/subject/PersonField";
import { ThingField } from "@/entities/thing/ThingField";
import { count } from "@/shared/lib/words";
import { Combobox } from "@/shared/ui/Combobox";
import { DateField } from "@/shared/ui/DateField";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { editsOf, STATES, type ManyAct, type Selected } from "../model";
import { ManySignIns } from "./ManySignIns";
import styles from "./SelectionBar.module.css";

/** Maximum number of people in one question about use. */
const MOST_IN_USE = 100;

interface Props {
  chosen: Selected[];
  /** How many people the list has. */
  total: number;
  onAll: () => void;
  onClear: () => void;
}

/** Actions on the selected people: one edit of the draft for all of them. */
export function SelectionBar({ chosen, total, onAll, onClear }: Props) {
  const edit = useEdit();
  const [assigning, setAssigning] = useState(false);
  const asks = useAsks();
  const act = (it: ManyAct) => edit.mutate(editsOf(it, chosen));
  return (
    <section className={styles["bar"]} aria-label="Selected people">
      <strong>{count(chosen.length, "person", "people")} selected</strong>
      {chosen.length < total && (
        <LinkButton onClick={onAll}>Select all {total.toLocaleString("en")}</LinkButton>
      )}
      <Button size="small" type="primary" onClick={() => setAssigning(true)}>
        Assign
      </Button>
      <ThingField
        label="For the selected people"
        look="button"
        value="Add to group"
        search="Group"
        kind="groups"
        onChoose={(group) => act({ kind: "join", group })}
      />
      <ThingField
        label="For the selected people"
        look="button"
        value="Move to unit"
        search="Unit"
        kind="units"
        onChoose={(unit) => act({ kind: "unit", unit })}
      />
      <InlinePicker
        label="For the selected people"
        look="button"
        value="Set state"
        picker={(close) => (
          <Combobox
            label="State"
            options={STATES.map((it) => ({ value: it, label: it }))}
            onChoose={(state) => {
              act({ kind: "state", state });
              close();
            }}
          />
        )}
      />
      <PersonField
        label="For the selected people"
        look="button"
        value="Set manager"
        search="Manager"
        onChoose={(manager) => act({ kind: "manager", manager })}
      />
      <InlinePicker
        label="For the selected people"
        look="button"
        value="Set end"
        picker={(close) => (
          <DateField
            label="End of their time"
            value=""
            onChange={(until) => {
              act({ kind: "until", until });
              close();
            }}
          />
        )}
      />
      <ManySignIns people={chosen} />
      {asks && chosen.length <= MOST_IN_USE && (
        <Link to={pageOfUse(...chosen.map(refOf))}>What they use</Link>
      )}
      <LinkButton onClick={onClear}>Clear selection</LinkButton>
      {edit.isSuccess && <span role="status">Added to your draft.</span>}
      {edit.isError && <ProblemAlert problem={edit.error} />}
      {assigning && (
        <LazyComposer
          open
          subjects={chosen.map((it) => ({ ref: refOf(it), name: it.name }))}
          onClose={() => setAssigning(false)}
        />
      )}
    </section>
  );
}
