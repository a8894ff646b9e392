import { useState } from "react";
import { Input, Modal } from "antd";
import { count } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";

interface Props {
  /** How many. */
  many: number;
  /** What they are; findings unless said otherwise. */
  one?: string;
  more?: string;
  pending: boolean;
  problem: Error | null;
  onAccept: (until: string, reason: string) => void;
  onClose: () => void;
}

/** Asks until when findings may stay, and why. */
export default function AcceptDialog({
  many,
  one = "finding",
  more = `${one}s`,
  pending,
  problem,
  onAccept,
  onClose,
}: Props) {
  const [until, setUntil] = useState("");
  const [reason, setReason] = useState("");
  const ready = until !== "" && reason.trim() !== "";
  return (
    <Modal
      open
      title={`Accept ${count(many, one, more)}`}
      okText="Accept"
      okButtonProps={{ disabled: !ready, loading: pending }}
      onCancel={onClose}
      onOk={() => onAccept(`${until}T00:00:00Z`, reason)}
    >
      <p>They come back on that date, and before it if they get worse.</p>
      <p>
        <DateField label="Accept until" value={until} onChange={setUntil} placeholder="Until" />
      </p>
      <Input.TextArea
        aria-label="Reason"
        placeholder="Reason"
        rows={3}
        maxLength={1000}
        value={reason}
        onChange={(it) => setReason(it.target.value)}
      />
      {problem && <ProblemAlert problem={problem} />}
    </Modal>
  );
}
