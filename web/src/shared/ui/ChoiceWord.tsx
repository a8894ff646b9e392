import { Combobox, type Option } from "./Combobox";
import { InlinePicker } from "./InlinePicker";

interface Props {
  label: string;
  value: string;
  /** What the sentence says where none of the options is chosen. */
  otherwise?: string;
  options: Option[];
  onChoose: (value: string) => void;
}

/** One of a few choices as a word of a sentence. */
export function ChoiceWord({ label, value, otherwise, options, onChoose }: Props) {
  return (
    <InlinePicker
      label={label}
      value={options.find((it) => it.value === value)?.label ?? otherwise ?? value}
      picker={(close) => (
        <Combobox
          label={label}
          value={value}
          options={options}
          onChoose={(it) => {
            onChoose(it);
            close();
          }}
        />
      )}
    />
  );
}
