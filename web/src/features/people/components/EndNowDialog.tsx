import { useState } from "react";
import { Modal, Result } from "antd";
import { isProven, ProvenReason } from "@/entities/session/ProvenReason";
import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useEndNow } from "../lifecycleQueries";

interface Props {
  page: Schemas["PersonPage"];
  onClose: () => void;
}

/** Ends all that somebody can do, at once. */
export function EndNowDialog({ page, onClose }: Props) {
  const { name, key = "" } = page.person;
  const [proven, setProven] = useState({ reason: "", proof: "" });
  const end = useEndNow(key);
  if (end.isSuccess) {
    const { sessions, tokens, revision } = end.data;
    return (
      <Modal open title="All access has ended" onCancel={onClose} footer={null}>
        <Result
          status="success"
          title={`${name} has no access now`}
          subTitle={`Revision ${revision}. ${count(sessions, "session")} ended, ${count(tokens, "token")} revoked. Part with them, or reactivate them, when you know more.`}
        />
      </Modal>
    );
  }
  return (
    <Modal
      open
      title={`End all access of ${name} now`}
      okText="End all access now"
      okButtonProps={{ danger: true, disabled: !isProven(proven) }}
      confirmLoading={end.isPending}
      onOk={() => end.mutate({ reason: proven.reason.trim(), proof: proven.proof.trim() })}
      onCancel={onClose}
    >
      <p>
        This takes effect at once, without a draft: they are suspended and signed out everywhere,
        their tokens are revoked, and no one acts for them. What they own and hold stays recorded.
      </p>
      <ProvenReason value={proven} onChange={setProven} />
      {end.isError && <ProblemAlert problem={end.error} />}
    </Modal>
  );
}
