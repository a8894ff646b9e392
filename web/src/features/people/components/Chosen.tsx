import { useState } from "react";
import { Button } from "antd";
import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { ProblemNote } from "../../../components/ProblemNote";
import { ThingPicker } from "../../../components/ThingPicker";
import { count } from "../../../lib/words";
import { Composer } from "../../assign/components/Composer";
import { useEdit } from "../../draft/queries";
import { editsOf, refOf, STATES, type ManyAct } from "../model";
import type { Row } from "../queries";

interface Props {
  chosen: Row[];
  /** How many the list has, and a way to choose them all. */
  total: number;
  onAll: () => void;
  onClear: () => void;
}

/** What is done with many people at once: one edit of the draft for all of them. */
export function Chosen({ chosen, total, onAll, onClear }: Props) {
  const edit = useEdit();
  const [assigning, setAssigning] = useState(false);
  function act(act: ManyAct) {
    edit.mutate(editsOf(act, chosen));
  }
  return (
    <section className="chosen" aria-label="Chosen people">
      <strong>{count(chosen.length, "person", "people")} chosen</strong>
      {chosen.length < total && (
        <button type="button" className="link" onClick={onAll}>
          choose all {total.toLocaleString("en")}
        </button>
      )}
      <Field
        label="Put them into a group"
        className="link"
        value="put into a group"
        picker={(close) => (
          <ThingPicker
            kind="groups"
            label="Group"
            onChoose={(group) => {
              act({ kind: "join", group });
              close();
            }}
          />
        )}
      />
      <Field
        label="Put them into a unit"
        className="link"
        value="put into a unit"
        picker={(close) => (
          <ThingPicker
            kind="units"
            label="Unit"
            onChoose={(unit) => {
              act({ kind: "unit", unit });
              close();
            }}
          />
        )}
      />
      <Field
        label="Set their state"
        className="link"
        value="set their state"
        picker={(close) => (
          <Choose
            label="State"
            options={STATES.map((it) => ({ value: it, label: it }))}
            onChoose={(state) => {
              act({ kind: "state", state });
              close();
            }}
          />
        )}
      />
      <Button size="small" type="primary" onClick={() => setAssigning(true)}>
        Assign
      </Button>
      <button type="button" className="link" onClick={onClear}>
        clear
      </button>
      {edit.isSuccess && <span role="status">It is in your draft.</span>}
      {edit.isError && <ProblemNote problem={edit.error} />}
      {assigning && (
        <Composer
          open
          subjects={chosen.map((it) => ({ ref: refOf(it), name: it.name }))}
          onClose={() => setAssigning(false)}
        />
      )}
    </section>
  );
}
