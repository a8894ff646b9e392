import { Button } from "antd";
import { Link } from "react-router";
import { useEdit } from "@/entities/draft/queries";
import { editsFrom } from "@/shared/lib/thing";
import { dateOf } from "@/shared/lib/words";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { placesOf } from "../model";
import { useDrafted, useFinding, type Finding, type Remedy } from "../queries";
import { RuleCases } from "./RuleCases";
import styles from "./FindingDetail.module.css";

const RULES = ["exclusion", "expectation", "prerequisite", "holders"];

/** What a finding rests on, what was said of it and what settles it. */
export function FindingDetail({ finding }: { finding: Finding }) {
  return (
    <div className={styles["detail"]}>
      {finding.reason && (
        <p>
          {finding.state === "accepted" ? "Accepted" : "Was accepted"}
          {finding.until && <> until {dateOf(finding.until)}</>}: {finding.reason}
        </p>
      )}
      {RULES.includes(finding.kind) ? <RuleCases id={finding.id} /> : <Remedies of={finding} />}
      <p className={styles["places"]}>
        {placesOf(finding).map((it) => (
          <Link key={it.to} to={it.to}>
            {it.label}
          </Link>
        ))}
        {finding.revision !== undefined && (
          <Link to={`/trail?revision=${finding.revision}`}>Revision {finding.revision}</Link>
        )}
      </p>
    </div>
  );
}

function Remedies({ of: finding }: { of: Finding }) {
  const one = useFinding(finding.id);
  if (one.isPending) return <Loading what="the remedies" />;
  if (one.isError) {
    return <ProblemAlert problem={one.error} onRetry={() => void one.refetch()} />;
  }
  const { remedies } = one.data;
  if (finding.state === "resolved") return null;
  if (remedies.length === 0) {
    return (
      <p className="note">
        {finding.mine
          ? "No remedy fits by itself: look into it, then decide."
          : "You can’t change this. Ask the administrator of the account."}
      </p>
    );
  }
  return (
    <ul className={styles["remedies"]} aria-label="Remedies">
      {remedies.map((it) => (
        <RemedyRow key={it.act} finding={finding} remedy={it} />
      ))}
    </ul>
  );
}

function RemedyRow({ finding, remedy }: { finding: Finding; remedy: Remedy }) {
  const edit = useEdit();
  const drafted = useDrafted();
  const add = () =>
    edit.mutate(editsFrom(remedy.edits), {
      onSuccess: (open) => {
        if (open.draft) drafted.mutate({ id: finding.id, draft: open.draft.id });
      },
    });
  return (
    <li>
      <Button
        size="small"
        loading={edit.isPending}
        aria-label={`${remedy.label}: add to draft`}
        onClick={add}
      >
        {remedy.label}
      </Button>
      <span>
        {remedy.said.slice(0, 3).join("; ")}
        {remedy.said.length > 3 && `, and ${remedy.said.length - 3} more`}
      </span>
      {edit.isSuccess && <span role="status">Added to your draft.</span>}
      {edit.isError && <ProblemAlert problem={edit.error} />}
      {drafted.isError && <ProblemAlert problem={drafted.error} />}
    </li>
  );
}
