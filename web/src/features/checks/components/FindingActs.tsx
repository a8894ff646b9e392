import { useState } from "react";
import { Button, Input, Modal } from "antd";
import { PersonField } from "@/entities/subject/PersonField";
import { count } from "@/shared/lib/words";
import { DateField } from "@/shared/ui/DateField";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useAcceptFindings, useOwnFindings, useReopenFindings, type Finding } from "../queries";
import styles from "./FindingActs.module.css";

interface Props {
  chosen: Finding[];
  onClear: () => void;
}

/** Decides about the selected findings, as far as the viewer may. */
export function FindingActs({ chosen, onClear }: Props) {
  const own = useOwnFindings();
  const reopen = useReopenFindings();
  const [accepting, setAccepting] = useState(false);
  const mine = chosen.filter((it) => it.mine && it.state !== "resolved").map((it) => it.id);
  const accepted = chosen.filter((it) => it.mine && it.state === "accepted").map((it) => it.id);
  const error = own.error ?? reopen.error;
  return (
    <section className={styles["bar"]} aria-label="Selected findings">
      <strong>{count(chosen.length, "finding", "findings")} selected</strong>
      {mine.length > 0 && (
        <>
          <Button size="small" type="primary" onClick={() => setAccepting(true)}>
            Accept until a date
          </Button>
          <PersonField
            label="Owner of the selected findings"
            look="button"
            value="Choose owner"
            onChoose={(owner) => own.mutate({ ids: mine, owner })}
          />
          <Button size="small" onClick={() => own.mutate({ ids: mine })}>
            Remove owner
          </Button>
        </>
      )}
      {accepted.length > 0 && (
        <Button size="small" onClick={() => reopen.mutate(accepted)}>
          Reopen
        </Button>
      )}
      {mine.length < chosen.length && (
        <span className="note">You can’t decide about {chosen.length - mine.length} of them.</span>
      )}
      <LinkButton onClick={onClear}>Clear selection</LinkButton>
      {error && <ProblemAlert problem={error} />}
      {accepting && (
        <Accepting
          ids={mine}
          onClose={() => setAccepting(false)}
          onDone={() => {
            setAccepting(false);
            onClear();
          }}
        />
      )}
    </section>
  );
}

function Accepting({
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
      {accept.isError && <ProblemAlert problem={accept.error} />}
    </Modal>
  );
}
