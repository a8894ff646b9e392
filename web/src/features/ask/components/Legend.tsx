import { CLASSES } from "@/entities/access/model";
import { VerdictMark } from "@/entities/access/VerdictMark";
import { Term } from "@/shared/ui/Term";
import styles from "./Legend.module.css";

/** How to read the mandala. */
export function Legend() {
  return (
    <div className={styles["legend"]}>
      <span>
        <Term word="mandala">Mandala</Term>, from the centre:
      </span>
      {CLASSES.map((it) => (
        <span key={it}>
          <VerdictMark verdict="allowed" accessClass={it} risk="moderate" /> {it}
        </span>
      ))}
      <span>darker: higher risk</span>
      <span>wider: more of the area</span>
      <span>
        <VerdictMark verdict="blocked" accessClass="view" risk="high" />{" "}
        <Term word="gate">gate</Term> missing
      </span>
      <span>
        <VerdictMark verdict="denied" accessClass="administer" risk="high" /> denied
      </span>
      <span>
        <VerdictMark verdict="none" accessClass="view" risk="low" /> not granted
      </span>
    </div>
  );
}
