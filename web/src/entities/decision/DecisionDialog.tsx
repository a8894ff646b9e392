import { useState } from "react";
import { Checkbox, Input, Modal, Radio, Space } from "antd";
import { DateField } from "@/shared/ui/DateField";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { VERDICTS } from "./model";
import type { Decision, ItemDetail } from "./queries";

export type Asking = "keep" | "reduce" | "remove";

interface Props {
  asking: Asking;
  item: ItemDetail;
  /** Why keeping it needs a reason. */
  why: string | undefined;
  pending: boolean;
  problem: Error | null;
  onDecide: (decision: Omit<Decision, "facts">) => void;
  onClose: () => void;
}

/** Asks what a decision needs: a reason, a way to reduce, what goes with it. */
export function DecisionDialog({ asking, item, why, pending, problem, onDecide, onClose }: Props) {
  const [reason, setReason] = useState("");
  const [way, setWay] = useState(item.reductions[0]?.key ?? "");
  const [until, setUntil] = useState("");
  const [together, setTogether] = useState(true);
  const needsUntil = item.reductions.find((it) => it.key === way)?.until ?? false;
  const ready =
    asking === "keep"
      ? reason.trim() !== ""
      : asking === "remove" || (way !== "" && (!needsUntil || until !== ""));
  const said = reason.trim() === "" ? {} : { reason };
  function decide() {
    if (asking === "reduce") {
      const end = needsUntil ? { until: `${until}T00:00:00Z` } : {};
      onDecide({ verdict: "reduce", reduction: way, ...end, ...said });
    } else if (asking === "remove") {
      onDecide({ verdict: "remove", with: together ? item.with.map((it) => it.id) : [], ...said });
    } else {
      onDecide({ verdict: "keep", ...said });
    }
  }
  return (
    <Modal
      open
      title={`${VERDICTS[asking]}: ${item.row.said}`}
      okText={VERDICTS[asking]}
      okButtonProps={{ disabled: !ready, loading: pending }}
      onOk={decide}
      onCancel={onClose}
    >
      {asking === "keep" && <p>Write why it stays. {why}.</p>}
      {asking === "reduce" && (
        <Radio.Group value={way} onChange={(event) => setWay(event.target.value as string)}>
          <Space orientation="vertical">
            {item.reductions.map((it) => (
              <Radio key={it.key} value={it.key}>
                {it.label}
                {it.says.length > 0 && <span className="note"> {it.says.join("; ")}</span>}
              </Radio>
            ))}
          </Space>
        </Radio.Group>
      )}
      {asking === "reduce" && needsUntil && (
        <p>
          <DateField label="End" value={until} onChange={setUntil} placeholder="End" />
        </p>
      )}
      {asking === "remove" && (
        <Checkbox checked={together} onChange={(event) => setTogether(event.target.checked)}>
          Also remove {item.with.map((it) => it.said).join("; ")}. Without these, nothing changes:
          they grant the same.
        </Checkbox>
      )}
      <Input.TextArea
        aria-label="Reason"
        placeholder={asking === "keep" ? "Reason" : "Reason (optional)"}
        rows={3}
        maxLength={1000}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        style={{ marginTop: 12 }}
      />
      {problem && <ProblemAlert problem={problem} />}
    </Modal>
  );
}
