import { useState } from "react";
import { Modal } from "antd";
import { NamePicker } from "@/entities/thing/NamePicker";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useGive, type Reviewer } from "../queries";

interface Props {
  round: number;
  reviewer: Reviewer;
  onClose: () => void;
}

/** Gives what a reviewer has not decided to somebody else. */
export function GiveDialog({ round, reviewer, onClose }: Props) {
  const [to, setTo] = useState("");
  const give = useGive(round);
  const from = reviewer.who === undefined ? {} : { from: reviewer.who };
  return (
    <Modal
      open
      title={`Give ${count(reviewer.left, "item")} of ${reviewer.name} to somebody else`}
      okText="Give"
      okButtonProps={{ disabled: to === "", loading: give.isPending }}
      onOk={() => give.mutate({ ...from, to }, { onSuccess: onClose })}
      onCancel={onClose}
    >
      <p>Items about whoever you choose stay: nobody decides about themselves.</p>
      <NamePicker
        label="To whom"
        kinds={["principals"]}
        value={to === "" ? undefined : to}
        onChoose={(it) => setTo(it.key)}
      />
      {give.isError && <ProblemAlert problem={give.error} />}
    </Modal>
  );
}
