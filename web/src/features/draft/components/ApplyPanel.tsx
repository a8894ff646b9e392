import { useState, type FormEvent } from "react";
import { Button, Input } from "antd";
import { Link, useNavigate } from "react-router";
import { ProblemNote } from "../../../components/ProblemNote";
import type { Who } from "../../session";
import { useApply, useApprove, type DraftView } from "../queries";

/** What still speaks against applying; else the proof, and the button. */
export function ApplyPanel({ draft, who }: { draft: DraftView; who: Who }) {
  const [proof, setProof] = useState("");
  const apply = useApply(draft.id);
  const approve = useApprove(draft.id);
  const navigate = useNavigate();
  if (draft.state === "applied") {
    return (
      <p>
        Applied as{" "}
        <Link to={`/trail?revision=${draft.appliedAs ?? ""}`}>revision {draft.appliedAs}</Link>.
      </p>
    );
  }
  if (draft.state === "discarded") return <p>This draft was discarded.</p>;
  const approved = draft.approvals.some((it) => it.counts);
  const against = [
    draft.changes.length === 0 && "There is nothing in it.",
    draft.clashes.length > 0 && "Choose whose change is to count.",
    draft.faults.length > 0 && "Mend what is wrong with it.",
    (draft.refusals.length > 0 || draft.changes.some((it) => it.refusals.length > 0)) &&
      "Your access does not cover all of it.",
    draft.judging && "Checking whether a second person must approve it…",
    draft.reasons.length > 0 && !approved && "A second person must approve it first.",
  ].filter((it): it is string => typeof it === "string");

  function submit(event: FormEvent) {
    event.preventDefault();
    apply.mutate(
      { content: draft.content, proof: proof.trim() },
      { onSuccess: (it) => void navigate(`/trail?revision=${it.revision}`) },
    );
  }

  return (
    <section className="apply" aria-label="Apply">
      {draft.reasons.length > 0 && (
        <div className="second-person">
          <strong>A second person must approve exactly this</strong>
          {draft.reasons.map((reason) => (
            <p key={reason}>{reason}.</p>
          ))}
          {draft.approvals.map((it) => (
            <p key={it.who.key}>
              {it.who.name} approved {it.counts ? "it as it is now." : "an earlier content: void."}
            </p>
          ))}
          {!approved && (
            <p className="note">
              {draft.approvers.length === 0
                ? "Nobody may approve all of it now. Part it, or give somebody the right."
                : `${draft.approvers.map((it) => it.name).join(", ")} could. Send them this page's link.`}
            </p>
          )}
        </div>
      )}
      {draft.mine ? (
        <>
          {against.map((it) => (
            <p key={it} className="wrong">
              {it}
            </p>
          ))}
          {against.length === 0 && (
            <form onSubmit={submit}>
              <label>
                {who.enrolled ? "Current code of your second factor" : "Your password"}
                <Input
                  value={proof}
                  onChange={(event) => setProof(event.target.value)}
                  type={who.enrolled ? "text" : "password"}
                  inputMode={who.enrolled ? "numeric" : undefined}
                  autoComplete={who.enrolled ? "one-time-code" : "current-password"}
                  required
                />
              </label>
              <Button type="primary" htmlType="submit" loading={apply.isPending}>
                Apply as one revision
              </Button>
            </form>
          )}
          {apply.isError && <ProblemNote problem={apply.error} />}
        </>
      ) : (
        draft.mayApprove && (
          <>
            <Button
              type="primary"
              loading={approve.isPending}
              disabled={draft.approvals.some((it) => it.counts && it.who.key === who.key)}
              onClick={() => approve.mutate(draft.content)}
            >
              Approve exactly this
            </Button>
            {approve.isError && <ProblemNote problem={approve.error} />}
          </>
        )
      )}
      <p>
        <Link className="link" to={`/drafts/${draft.id}/read`}>
          Read the whole before applying
        </Link>
      </p>
    </section>
  );
}
