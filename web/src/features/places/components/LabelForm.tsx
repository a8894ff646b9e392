import { Button, Form, Input } from "antd";
import { labelLines, labelsIn } from "../model";

interface Props {
  labels: Record<string, string>;
  onPut: (labels: Record<string, string>) => void;
}

/** Edits the labels of a place, one a line. */
export function LabelForm({ labels, onPut }: Props) {
  return (
    <Form<{ text: string }>
      layout="vertical"
      initialValues={{ text: labelLines(labels) }}
      onFinish={({ text }) => onPut(labelsIn(text))}
    >
      <Form.Item
        name="text"
        label="One label a line, as in floor=2"
        rules={[
          {
            pattern: /^(\s*|[^=\n]+=[^=\n]+)(\n(\s*|[^=\n]+=[^=\n]+))*$/,
            message: "Each line needs a name, =, and a value.",
          },
        ]}
      >
        <Input.TextArea autoFocus rows={4} />
      </Form.Item>
      <Button htmlType="submit" size="small">
        Add to draft
      </Button>
    </Form>
  );
}
