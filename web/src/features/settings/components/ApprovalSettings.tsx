import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import { useApprovalRules, useSetApproval } from "../queries";

/** When a second person must approve a draft, besides what is always so. */
export function ApprovalSettings() {
  const rules = useApprovalRules();
  const set = useSetApproval();
  if (rules.isPending) return <Waiting what="the policy" />;
  if (rules.isError) {
    return <ProblemNote problem={rules.error} onRetry={() => void rules.refetch()} />;
  }
  if (rules.data.rules.length === 0) return null;
  return (
    <>
      <h1 className="sentence">A second person</h1>
      <section className="setting">
        <p>
          What widens its author’s own access, or gives anybody a critical permission, always waits
          for a second person. Besides that, a draft waits where it changes what more people may do
          than stands here.
        </p>
        {rules.data.rules.map((it) => (
          <p key={it.account}>
            <label>
              In {it.name}, more than{" "}
              <input
                key={it.people ?? ""}
                className="plain-input number"
                type="number"
                min={0}
                disabled={!it.mine}
                placeholder="any"
                aria-label={`People in ${it.name}`}
                defaultValue={it.people ?? ""}
                onBlur={(event) => {
                  const typed = event.target.value;
                  if (typed !== String(it.people ?? "")) {
                    set.mutate({
                      account: it.account,
                      ...(typed !== "" && { people: Number(typed) }),
                    });
                  }
                }}
                onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
              />{" "}
              people
            </label>
            {!it.mine && <span className="note"> Only its owner changes this.</span>}
          </p>
        ))}
        {set.isError && <ProblemNote problem={set.error} />}
        {set.isSuccess && <p role="status">Kept.</p>}
      </section>
    </>
  );
}
