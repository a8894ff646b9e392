import { InlinePicker } from "@/shared/ui/InlinePicker";
import type { PickerField } from "@/shared/ui/field";
import { ThingPicker } from "./ThingPicker";

interface Props extends PickerField {
  kind: string;
  without?: string[];
}

/** A field that is filled with a thing of one kind. */
export function ThingField({ label, value, look, search = label, kind, without, onChoose }: Props) {
  return (
    <InlinePicker
      label={label}
      value={value}
      look={look}
      picker={(close) => (
        <ThingPicker
          kind={kind}
          label={search}
          without={without}
          onChoose={(key, name) => {
            onChoose(key, name);
            close();
          }}
        />
      )}
    />
  );
}
