import { Button, InputNumber, Space } from "antd";
import { InlinePicker } from "./InlinePicker";

interface Props {
  label: string;
  value: number;
  /** How the sentence says it. */
  text: string;
  min?: number;
  max: number;
  onChoose: (value: number) => void;
}

/** A number as a word of a sentence. */
export function NumberWord({ label, value, text, min = 1, max, onChoose }: Props) {
  return (
    <InlinePicker
      label={label}
      value={text}
      picker={(close) => (
        <Space>
          <InputNumber
            aria-label={label}
            min={min}
            max={max}
            value={value}
            onChange={(it) => it !== null && onChoose(it)}
            onPressEnter={close}
          />
          <Button onClick={close}>Done</Button>
        </Space>
      )}
    />
  );
}
