import { useState } from "react";
import { Button, Form, InputNumber, Space } from "antd";
import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useKeepUse } from "../use";

type Keeping = Schemas["KeepOrder"];

const FIELDS: { name: keyof Keeping; label: string; min: number }[] = [
  { name: "kept", label: "Days for which use is kept", min: 31 },
  { name: "rolledAfter", label: "Days after which a month is kept as its days only", min: 31 },
  { name: "strangersKept", label: "Days for which records of unknown names are kept", min: 1 },
  { name: "window", label: "Days of the usual window", min: 1 },
];

/** How long use is kept, and what window is looked at; who manages every root account sets it. */
export function UseKeeping({ list }: { list: Schemas["SourceList"] }) {
  const [editing, setEditing] = useState(false);
  const keep = useKeepUse();
  if (!editing) {
    return (
      <p className="note">
        Use is kept for {count(list.kept, "day")}, records of unknown names for{" "}
        {count(list.strangersKept, "day")}; the usual window is {count(list.window, "day")}.{" "}
        {list.mine && <LinkButton onClick={() => setEditing(true)}>Change</LinkButton>}
      </p>
    );
  }
  const { kept, rolledAfter, strangersKept, window } = list;
  return (
    <Form<Keeping>
      layout="vertical"
      aria-label="How long use is kept"
      initialValues={{ kept, rolledAfter, strangersKept, window }}
      onFinish={(values) => keep.mutate(values, { onSuccess: () => setEditing(false) })}
    >
      {FIELDS.map(({ name, label, min }) => (
        <Form.Item
          key={name}
          name={name}
          label={label}
          rules={[{ required: true, message: "Write a number of days." }]}
        >
          <InputNumber min={min} max={3660} precision={0} />
        </Form.Item>
      ))}
      {keep.isError && <ProblemAlert problem={keep.error} />}
      <Space>
        <Button type="primary" htmlType="submit" loading={keep.isPending}>
          Save
        </Button>
        <Button onClick={() => setEditing(false)}>Cancel</Button>
      </Space>
    </Form>
  );
}
