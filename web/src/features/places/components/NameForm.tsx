import { Button, Form, Input } from "antd";

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
