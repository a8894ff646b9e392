import { useState } from "react";
import { Input, Modal } from "antd";
import { NamePicker } from "@/entities/thing/NamePicker";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { usePass, type Item, type MyItems } from "./queries";

interface Props {
  round: number;
  item: Item;
  /** Whom one can name without a search. */
  targets: MyItems["passTo"];
  onClose: () => void;
}

/** Passes an item on to another person, with a word. */
export function PassDialog({ round, item, targets, onClose }: Props) {
  const [to, setTo] = useState("");
  const [said, setSaid] = useState("");
  const pass = usePass(round);
  return (
    <Modal
      open
      title={`Pass on: ${item.said}`}
      okText="Pass on"
      okButtonProps={{ disabled: to === "", loading: pass.isPending }}
      onOk={() =>
        pass.mutate(
          { item: item.number, body: said.trim() === "" ? { to } : { to, said } },
          { onSuccess: onClose },
        )
      }
      onCancel={onClose}
    >
      <NamePicker
        label="To whom"
        kinds={["principals"]}
        value={to === "" ? undefined : to}
        fixed={targets.map((it) => ({ value: it.key, label: it.name }))}
        without={[item.about]}
        onChoose={(it) => setTo(it.key)}
      />
      <Input.TextArea
        aria-label="Message"
        placeholder="Why you pass it on (optional)"
        rows={3}
        maxLength={1000}
        value={said}
        onChange={(event) => setSaid(event.target.value)}
        style={{ marginTop: 12 }}
      />
      {pass.isError && <ProblemAlert problem={pass.error} />}
    </Modal>
  );
}
