import type { Schemas } from "@/shared/api/client";
import styles from "./EscalationPathList.module.css";

type Path = Schemas["PathView"];
type Step = Schemas["StepView"];

const WHY: Record<string, string> = {
  widens: "it widens its author’s own access",
  critical: "it grants a critical permission",
  "many-people": "it changes the access of many people",
};

/** Escalation paths, each a numbered list of steps and the rights they use. */
export function EscalationPathList({ paths }: { paths: Path[] }) {
  return (
    <ul className={styles["paths"]}>
      {paths.map((path, at) => (
        <li key={at}>
          <ol>
            {path.steps.map((step, i) => (
              <li key={i} data-kind={step.kind}>
                {step.said.join("; ")}
                {step.uses.length > 0 && (
                  <small>
                    uses {step.uses.map((it) => `“${it.permissionName}” on ${it.place}`).join(", ")}
                  </small>
                )}
                <Approval step={step} />
              </li>
            ))}
          </ol>
        </li>
      ))}
    </ul>
  );
}

function Approval({ step }: { step: Step }) {
  if (step.kind !== "change") return null;
  if (step.approval.length === 0) return <small>needs no approval</small>;
  const who =
    step.approvers.length > 0
      ? step.approvers.join(", ") + (step.moreApprovers ? " and others you can't see" : "")
      : "only people you can't see";
  return (
    <small className={styles["approval"]}>
      needs a second person’s approval, because{" "}
      {step.approval.map((it) => WHY[it] ?? it).join(" and ")}. Can approve: {who}.
    </small>
  );
}
