import { Form, Input } from "antd";
import { useHandle, type DraftView } from "@/entities/draft/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./Explanation.module.css";

interface Props {
  draft: DraftView;
  readOnly: boolean;
}

/** Why a draft is made, and the ticket behind it; both stay with its revision. */
export function Explanation({ draft, readOnly }: Props) {
  const handle = useHandle(draft.id);
  if (readOnly) {
    if (!draft.reason && !draft.reference) return null;
    return (
      <dl className={styles["said"]} aria-label="Explanation">
        {draft.reason && (
          <>
            <dt>Reason</dt>
            <dd>{draft.reason}</dd>
          </>
        )}
        {draft.reference && (
          <>
            <dt>Reference</dt>
            <dd>{draft.reference}</dd>
          </>
        )}
      </dl>
    );
  }
  function keep(field: "reason" | "reference", typed: string) {
    if (typed.trim() !== (draft[field] ?? "")) handle.mutate({ [field]: typed.trim() });
  }
  return (
    <Form layout="vertical" className={styles["explanation"] ?? ""} requiredMark="optional">
      <Form.Item label="Reason" required={draft.needs.reason}>
        <Input.TextArea
          key={draft.reason}
          aria-label="Reason"
          placeholder="Why these changes are made"
          defaultValue={draft.reason}
          autoSize={{ minRows: 1, maxRows: 6 }}
          maxLength={2000}
          onBlur={(event) => keep("reason", event.target.value)}
        />
      </Form.Item>
      <Form.Item label="Reference" required={draft.needs.reference}>
        <Input
          key={draft.reference}
          aria-label="Reference"
          placeholder="Ticket or order number"
          defaultValue={draft.reference}
          maxLength={200}
          onBlur={(event) => keep("reference", event.target.value)}
          onPressEnter={(event) => event.currentTarget.blur()}
        />
      </Form.Item>
      {handle.isError && <ProblemAlert problem={handle.error} />}
    </Form>
  );
}
