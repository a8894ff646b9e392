import { Button, InputNumber, Space } from "antd";
import { count } from "@/shared/lib/words";
import { InlinePicker } from "./InlinePicker";

interface Props {
  label: string;
  days: number;
  max?: number;
  onChoose: (days: number) => void;
}

/** A number of days as words of a sentence. */
export function DaysWord({ label, days, max = 90, onChoose }: Props) {
  return (
    <InlinePicker
      label={label}
      value={count(days, "day")}
      picker={(close) => (
        <Space>
          <InputNumber
            aria-label={label}
            min={1}
            max={max}
            value={days}
            onChange={(it) => it !== null && onChoose(it)}
            onPressEnter={close}
          />
          <Button onClick={close}>Done</Button>
        </Space>
      )}
    />
  );
}
