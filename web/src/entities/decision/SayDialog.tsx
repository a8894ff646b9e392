import { useState } from "react";
import { Input, Modal } from "antd";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useSay, type Item } from "./queries";

interface Props {
  round: number;
  item: Item;
  /** Whether the person is asked; else it is a comment. */
  ask: boolean;
  onClose: () => void;
}

/** Asks whoever has an item about it, or comments on it. */
export function SayDialog({ round, item, ask, onClose }: Props) {
  const [said, setSaid] = useState("");
  const say = useSay(round);
  return (
    <Modal
      open
      title={ask ? `Ask ${item.aboutName}` : `Comment on ${item.said}`}
      okText={ask ? "Ask" : "Add comment"}
      okButtonProps={{ disabled: said.trim() === "", loading: say.isPending }}
      onOk={() => say.mutate({ item: item.number, said, ask }, { onSuccess: onClose })}
      onCancel={onClose}
    >
      {ask && <p>They answer on their own page. You can decide before they do.</p>}
      <Input.TextArea
        aria-label={ask ? "Question" : "Comment"}
        rows={3}
        maxLength={1000}
        value={said}
        onChange={(event) => setSaid(event.target.value)}
      />
      {say.isError && <ProblemAlert problem={say.error} />}
    </Modal>
  );
}
