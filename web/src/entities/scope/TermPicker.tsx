import { useState } from "react";
import { Button, Form, Input } from "antd";
import { PlacePicker } from "@/entities/place/PlacePicker";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { Combobox } from "@/shared/ui/Combobox";
import { KIND_OF_TERM, TERMS } from "./model";

interface Props {
  onPick: (term: string, value: unknown, name?: string) => void;
}

/** Chooses one term of a clause: first which, then its value. */
export function TermPicker({ onPick }: Props) {
  const [term, setTerm] = useState("");
  if (term === "") {
    return (
      <Combobox
        label="Where"
        options={TERMS}
        onChoose={(value) => {
          const [name = "", fixed] = value.split("=");
          if (fixed) onPick(name, fixed);
          else if (name === "everything") onPick(name, true);
          else setTerm(name);
        }}
      />
    );
  }
  if (term === "labels") return <LabelPicker onPick={(labels) => onPick("labels", labels)} />;
  const kind = KIND_OF_TERM[term] ?? "resources";
  if (kind === "resources") {
    return (
      <PlacePicker key={term} label="Place" onChoose={(key, name) => onPick(term, key, name)} />
    );
  }
  const label = TERMS.find((it) => it.value === term)?.label ?? term;
  return (
    <ThingPicker
      key={term}
      kind={kind}
      label={label}
      onChoose={(key, name) => onPick(term, key, name)}
    />
  );
}

function LabelPicker({ onPick }: { onPick: (labels: Record<string, string>) => void }) {
  return (
    <Form<{ label: string }>
      layout="vertical"
      onFinish={({ label }) => {
        const [name = "", value = ""] = label.split("=").map((it) => it.trim());
        onPick({ [name]: value });
      }}
    >
      <Form.Item
        name="label"
        label="Label, as in floor=2"
        rules={[
          { required: true, pattern: /^[^=]+=[^=]+$/, message: "Write a name, =, and a value." },
        ]}
      >
        <Input autoFocus />
      </Form.Item>
      <Button htmlType="submit" size="small">
        Add label
      </Button>
    </Form>
  );
}
