import { InlinePicker } from "@/shared/ui/InlinePicker";
import type { PickerField } from "@/shared/ui/field";
import { PlacePicker } from "./PlacePicker";

/** A field that is filled with a place. */
export function PlaceField({ label, value, look, search = label, onChoose }: PickerField) {
  return (
    <InlinePicker
      label={label}
      value={value}
      look={look}
      picker={(close) => (
        <PlacePicker
          label={search}
          onChoose={(key, name) => {
            onChoose(key, name);
            close();
          }}
        />
      )}
    />
  );
}
