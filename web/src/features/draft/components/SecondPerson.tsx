import { useState } from "react";
import { Button, Select } from "antd";
import { useRemind, useSend, useUnsend, type DraftView } from "@/entities/draft/queries";
import { ago, dateOf } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./SecondPerson.module.css";

type Request = DraftView["requests"][number];

/** Why a second person must approve a draft, who was asked, and what they answered. */
export function SecondPerson({ draft }: { draft: DraftView }) {
  const asked = new Set(draft.requests.map((it) => it.who.key));
  const approved = draft.approvals.some((it) => it.counts);
  const sends = draft.mine && (draft.state === "open" || draft.state === "aside");
  return (
    <section className="warning" aria-label="Approval">
      {draft.reasons.length > 0 && (
        <>
          <strong>A second person must approve this draft</strong>
          {draft.reasons.map((reason) => (
            <p key={reason}>{reason}.</p>
          ))}
        </>
      )}
      <ul className={styles["requests"]}>
        {draft.approvals
          .filter((it) => !asked.has(it.who.key) || it.counts)
          .map((it) => (
            <li key={`approval ${it.who.key}`}>
              {it.counts
                ? `${it.who.name} approved it as it is now, ${dateOf(it.at)}.`
                : `${it.who.name} approved an earlier version. That approval is void.`}
            </li>
          ))}
        {draft.requests
          .filter((it) => it.state !== "approved")
          .map((it) => (
            <Asked key={it.who.key} draft={draft} request={it} acts={sends} />
          ))}
      </ul>
      {sends && !approved && <Send draft={draft} />}
    </section>
  );
}

function said(it: Request, now: Date): string {
  const { name } = it.who;
  switch (it.state) {
    case "declined":
      return `${name} declined it ${ago(it.answeredAt, now)}: ${it.because ?? ""}`;
    case "outdated":
      return `${name} declined an earlier version ${ago(it.answeredAt, now)}: ${it.because ?? ""}`;
    default:
      return it.remindedAt
        ? `Sent to ${name} ${ago(it.askedAt, now)}, reminded ${ago(it.remindedAt, now)}`
        : `Sent to ${name} ${ago(it.askedAt, now)}`;
  }
}

function Asked({ draft, request, acts }: { draft: DraftView; request: Request; acts: boolean }) {
  const remind = useRemind(draft.id);
  const unsend = useUnsend(draft.id);
  const send = useSend(draft.id);
  const problem = remind.error ?? unsend.error ?? send.error;
  const { key, name } = request.who;
  return (
    <li>
      <span title={dateOf(request.answeredAt ?? request.askedAt)}>{said(request, new Date())}</span>
      {acts && request.state === "waiting" && (
        <>
          <Button
            size="small"
            aria-label={`Remind ${name}`}
            loading={remind.isPending}
            onClick={() => remind.mutate(key)}
          >
            Remind
          </Button>
          <Button
            size="small"
            aria-label={`Withdraw from ${name}`}
            loading={unsend.isPending}
            onClick={() => unsend.mutate(key)}
          >
            Withdraw
          </Button>
        </>
      )}
      {acts && request.state === "outdated" && (
        <Button
          size="small"
          aria-label={`Send to ${name} again`}
          loading={send.isPending}
          onClick={() => send.mutate([key])}
        >
          Send again
        </Button>
      )}
      {problem && <ProblemAlert problem={problem} />}
    </li>
  );
}

/** Chooses who is asked to approve, among those who can. */
function Send({ draft }: { draft: DraftView }) {
  const [chosen, setChosen] = useState<string[]>([]);
  const send = useSend(draft.id);
  const asked = new Set(
    draft.requests.filter((it) => it.state === "waiting").map((it) => it.who.key),
  );
  const could = draft.approvers.filter((it) => !asked.has(it.key));
  if (draft.approvers.length === 0) {
    return draft.reasons.length > 0 ? (
      <p className="note">
        No one can approve all of it. Split the draft, or give someone the right to approve.
      </p>
    ) : null;
  }
  if (could.length === 0) return null;
  return (
    <div className={styles["send"]}>
      <Select
        mode="multiple"
        aria-label="Who can approve it"
        placeholder="Choose who can approve it"
        value={chosen}
        options={could.map((it) => ({ value: it.key, label: it.name }))}
        showSearch={{ optionFilterProp: "label" }}
        onChange={setChosen}
        maxCount={20}
      />
      <Button
        loading={send.isPending}
        disabled={chosen.length === 0}
        onClick={() => send.mutate(chosen, { onSuccess: () => setChosen([]) })}
      >
        Send for approval
      </Button>
      {send.isError && <ProblemAlert problem={send.error} />}
    </div>
  );
}
