import { useState } from "react";
import { Button, Calendar, Form, Input, Space } from "antd";
import dayjs from "dayjs";
import utc from "dayjs/plugin/utc";
import type { When } from "./WhenPicker";
import styles from "./WhenCalendar.module.css";

dayjs.extend(utc);

/** Chooses a date, or takes a date and time typed to the second. */
export default function WhenCalendar({ at, onChoose }: When) {
  const [picked, setPicked] = useState(() => (at ? dayjs.utc(at) : dayjs.utc()));
  return (
    <div className={styles["when"]}>
      <Calendar
        fullscreen={false}
        value={picked}
        onSelect={(date, { source }) => {
          setPicked(date);
          if (source === "date") {
            const time = at ? at.slice(11) : "12:00:00Z";
            onChoose(`${date.format("YYYY-MM-DD")}T${time}`);
          }
        }}
      />
      <Form<{ typed?: string }>
        layout="vertical"
        initialValues={{ typed: at }}
        onFinish={({ typed = "" }) => onChoose(typed.trim())}
      >
        <Form.Item name="typed" label="Or an exact time (UTC)">
          <Input placeholder="2026-05-01T09:00:00Z" />
        </Form.Item>
        <Space>
          <Button htmlType="submit" size="small">
            Use this time
          </Button>
          <Button size="small" onClick={() => onChoose("")}>
            Today
          </Button>
        </Space>
      </Form>
    </div>
  );
}
