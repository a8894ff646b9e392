import { useState } from "react";
import { Button, Form, Input } from "antd";
import { ThingPicker } from "@/entities/thing/ThingPicker";

/** Asks for the name of something new. */
export function NameForm({ label, onName }: { label: string; onName: (name: string) => void }) {
  return (
    <Form<{ name: string }>
      layout="vertical"
      requiredMark={false}
      onFinish={({ name }) => onName(name.trim())}
    >
      <Form.Item
        name="name"
        label={label}
        rules={[{ required: true, whitespace: true, message: "Enter a name." }]}
      >
        <Input autoFocus maxLength={200} />
      </Form.Item>
      <Button htmlType="submit" size="small">
        Add to draft
      </Button>
    </Form>
  );
}

/** Asks for the type and name of a new place. */
export function NewPlaceForm({ onMake }: { onMake: (type: string, name: string) => void }) {
  const [type, setType] = useState("");
  if (!type)
    return <ThingPicker kind="resourceTypes" label="Type of the place" onChoose={setType} />;
  return <NameForm label="Name of the place" onName={(name) => onMake(type, name)} />;
}
