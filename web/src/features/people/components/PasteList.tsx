import { useState } from "react";
import { Alert, Button, Form, Input, Modal } from "antd";
import { count, listed } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useNamed } from "../queries";

/** Lines that one list may have. */
const MOST = 1_000;

interface Chosen {
  key: string;
  name: string;
  kind: string;
}

/** Selects the people of a pasted list of names, addresses or keys. */
export function PasteList({ onSelect }: { onSelect: (people: Chosen[]) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button type="text" size="small" onClick={() => setOpen(true)}>
        Paste a list
      </Button>
      {open && <Dialog onSelect={onSelect} onClose={() => setOpen(false)} />}
    </>
  );
}

function linesOf(text: string): string[] {
  return text
    .split(/[\n;,\t]/)
    .map((it) => it.trim())
    .filter(Boolean);
}

function Dialog({
  onSelect,
  onClose,
}: {
  onSelect: (people: Chosen[]) => void;
  onClose: () => void;
}) {
  const named = useNamed();
  const [text, setText] = useState("");
  const lines = linesOf(text);
  const left = named.data ? [...named.data.unknown, ...named.data.ambiguous] : [];
  function select() {
    named.mutate(lines, {
      onSuccess: (it) => {
        onSelect(it.found);
        if (it.unknown.length + it.ambiguous.length === 0) onClose();
        else setText([...it.unknown, ...it.ambiguous].join("\n"));
      },
    });
  }
  return (
    <Modal
      open
      title="Select people from a list"
      okText="Select"
      okButtonProps={{ disabled: lines.length === 0 || lines.length > MOST }}
      cancelText={named.data ? "Close" : "Cancel"}
      confirmLoading={named.isPending}
      onOk={select}
      onCancel={onClose}
    >
      {named.data && left.length > 0 && (
        <Alert
          type="warning"
          role="alert"
          title={`${count(named.data.found.length, "person", "people")} selected, ${count(left.length, "line")} left`}
          description={[
            named.data.unknown.length > 0 &&
              `No one you can see is called ${listed(named.data.unknown.slice(0, 5))}. Check the spelling.`,
            named.data.ambiguous.length > 0 &&
              `Several people are called ${listed(named.data.ambiguous.slice(0, 5))}. Use their address.`,
          ]
            .filter(Boolean)
            .join(" ")}
        />
      )}
      <Form layout="vertical">
        <Form.Item
          label="Names, addresses or keys"
          extra={`One to a line, or between commas; up to ${MOST.toLocaleString("en")}.`}
          {...(lines.length > MOST && {
            validateStatus: "error" as const,
            help: `${count(lines.length, "line")}; up to ${MOST.toLocaleString("en")} at once. Split the list.`,
          })}
        >
          <Input.TextArea
            autoFocus
            aria-label="Names, addresses or keys"
            value={text}
            autoSize={{ minRows: 5, maxRows: 14 }}
            onChange={(event) => setText(event.target.value)}
          />
        </Form.Item>
      </Form>
      {named.isError && <ProblemAlert problem={named.error} />}
    </Modal>
  );
}
