import { Checkbox } from "antd";
import { MomentField } from "@/shared/ui/MomentField";
import { Term } from "@/shared/ui/Term";
import styles from "./Composer.module.css";
import type { Plan } from "./model";

interface Props {
  plan: Plan;
  onChange: (changes: Partial<Plan>) => void;
}

/** When an assignment is in effect, and how. */
export function Conditions({ plan, onChange }: Props) {
  return (
    <>
      <h3>When and how</h3>
      <div className={styles["window"]}>
        <span>
          From{" "}
          <MomentField
            label="From"
            edge="first"
            value={plan.from}
            placeholder="now"
            onChange={(from) => onChange({ from })}
          />
        </span>
        <span>
          Until{" "}
          <MomentField
            label="Until"
            edge="end"
            value={plan.until}
            placeholder="no end"
            onChange={(until) => onChange({ until })}
          />
        </span>
      </div>
      <Checkbox
        checked={plan.justInTime}
        onChange={(e) => onChange({ justInTime: e.target.checked })}
      >
        <Term word="just-in-time">Just-in-time</Term>: they activate it when they need it
      </Checkbox>
      <Checkbox
        checked={plan.crossesSeals}
        onChange={(e) => onChange({ crossesSeals: e.target.checked })}
      >
        Crosses <Term word="seal">seals</Term>: also covers sealed places below
      </Checkbox>
    </>
  );
}
