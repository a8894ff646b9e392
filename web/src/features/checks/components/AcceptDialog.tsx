import { useState } from "react";
import { Input, Modal } from "antd";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useAcceptFindings } from "../queries";

/** Asks until when findings may stay, and why. */
export default function AcceptDialog({
  ids,
  onClose,
  onDone,
}: {
  ids: string[];
  onClose: () => void;
  onDone: () => void;
}) {
  const accept = useAcceptFindings();
  const [until, setUntil] = useState("");
  const [reason, setReason] = useState("");
  const ready = until !== "" && reason.trim() !== "";
  return (
    <Modal
      open
      title={`Accept ${count(ids.length, "finding", "findings")}`}
      okText="Accept"
      okButtonProps={{ disabled: !ready, loading: accept.isPending }}
      onCancel={onClose}
      onOk={() =>
        accept.mutate({ ids, until: `${until}T00:00:00Z`, reason }, { onSuccess: onDone })
      }
    >
      <p>They come back on that date, and before it if they get worse.</p>
      <p>
        <Input
          type="date"
          aria-label="Accept until"
          value={until}
          onChange={(it) => setUntil(it.target.value)}
        />
      </p>
      <Input.TextArea
        aria-label="Reason"
        placeholder="Reason"
        rows={3}
        maxLength={1000}
        value={reason}
        onChange={(it) => setReason(it.target.value)}
      />
      {accept.isError && <ProblemAlert problem={accept.error} />}
    </Modal>
  );
}
