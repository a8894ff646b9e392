import { InlinePicker } from "@/shared/ui/InlinePicker";
import type { PickerField } from "@/shared/ui/field";
import { ThingPicker } from "./ThingPicker";

interface Props extends PickerField {
  kind: string;
  without?: string[];
  /** Offers only what the viewer may change. */
  changeable?: boolean;
}

/** A field that is filled with a thing of one kind. */
export function ThingField({
  label,
  value,
  look,
  search = label,
  kind,
  without,
  changeable,
  onChoose,
}: Props) {
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
          changeable={changeable}
          onChoose={(key, name) => {
            onChoose(key, name);
            close();
          }}
        />
      )}
    />
  );
}
