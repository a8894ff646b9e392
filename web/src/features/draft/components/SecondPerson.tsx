import type { DraftView } from "@/entities/draft/queries";
import { listed } from "@/shared/lib/words";

/** Why a second person must approve a draft, who has, and who can. */
export function SecondPerson({ draft }: { draft: DraftView }) {
  const approved = draft.approvals.some((it) => it.counts);
  return (
    <div className="warning">
      <strong>A second person must approve this draft</strong>
      {draft.reasons.map((reason) => (
        <p key={reason}>{reason}.</p>
      ))}
      {draft.approvals.map((it) => (
        <p key={it.who.key}>
          {it.counts
            ? `${it.who.name} approved it as it is now.`
            : `${it.who.name} approved an earlier version. That approval is void.`}
        </p>
      ))}
      {!approved && (
        <p className="note">
          {draft.approvers.length === 0
            ? "No one can approve all of it. Split the draft, or give someone the right to approve."
            : `Can approve: ${listed(draft.approvers.map((it) => it.name))}. Send one of them the link of this page.`}
        </p>
      )}
    </div>
  );
}
