import { Checkbox, InputNumber } from "antd";
import type { Schemas } from "@/shared/api/client";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useApprovalRules, useSetApproval } from "../queries";
import styles from "../pages/SettingsPage.module.css";

type Rule = Schemas["ApprovalRule"];

/** When a second person must approve a draft, besides what always needs approval. */
export function ApprovalSettings() {
  const rules = useApprovalRules();
  const set = useSetApproval();
  if (rules.isPending) return <Loading what="the approval policy" rows={3} />;
  if (rules.isError) {
    return <ProblemAlert problem={rules.error} onRetry={() => void rules.refetch()} />;
  }
  if (rules.data.rules.length === 0) return null;
  function keep(rule: Rule, changes: { [K in keyof Rule]?: Rule[K] | undefined }) {
    const { account, people, reason, reference } = { ...rule, ...changes };
    set.mutate({
      account,
      ...(people !== undefined && { people }),
      reason: reason,
      reference: reference,
    });
  }
  return (
    <>
      <h1 className={styles["title"]}>Approval</h1>
      <section className={styles["setting"]} aria-label="Approval">
        <p>
          A draft that widens its author’s own access, or grants a critical permission, always needs
          a second person’s approval. Other drafts need it if they change the access of more people
          than the limit below. Each account can also ask for a reason and a reference, such as the
          number of a ticket; both stay with the revision.
        </p>
        {rules.data.rules.map((it) => (
          <div key={it.account}>
            In {it.name}: more than{" "}
            <InputNumber<number>
              key={it.people ?? ""}
              size="small"
              style={{ width: 90 }}
              min={0}
              precision={0}
              changeOnWheel={false}
              disabled={!it.mine}
              placeholder="no limit"
              aria-label={`People in ${it.name}`}
              {...(it.people !== undefined && { defaultValue: it.people })}
              onBlur={(event) => {
                const typed = event.target.value;
                if (typed !== String(it.people ?? "")) {
                  keep(it, { people: typed === "" ? undefined : Number(typed) });
                }
              }}
              onPressEnter={(event) => event.currentTarget.blur()}
            />{" "}
            people.{" "}
            <Checkbox
              checked={it.reason}
              disabled={!it.mine}
              onChange={(event) => keep(it, { reason: event.target.checked })}
            >
              Reason required
            </Checkbox>
            <Checkbox
              checked={it.reference}
              disabled={!it.mine}
              onChange={(event) => keep(it, { reference: event.target.checked })}
            >
              Reference required
            </Checkbox>
            {!it.mine && <span className="note"> Only an owner can change this.</span>}
          </div>
        ))}
        {set.isError && <ProblemAlert problem={set.error} />}
        {set.isSuccess && <p role="status">Saved.</p>}
      </section>
    </>
  );
}
