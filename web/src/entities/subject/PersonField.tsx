import type { Option } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import type { PickerField } from "@/shared/ui/field";
import { useThingName } from "@/entities/thing/ThingName";
import { PersonPicker } from "./PersonPicker";

interface Props extends PickerField<[key: string]> {
  /** The key chosen now. */
  current?: string;
  /** Choices that come before the people while nothing is typed. */
  first?: Option[];
  not?: string;
}

/** A field that is filled with a person or service that the viewer may ask about. */
export function PersonField(props: Props) {
  const { label, value, look, search = "Person or service", current, first, not, onChoose } = props;
  // until an answer tells the name, the field has only the key
  const name = useThingName("principals", value === current ? (current ?? "") : "");
  return (
    <InlinePicker
      label={label}
      value={name === "" ? value : name}
      look={look}
      picker={(close) => (
        <PersonPicker
          label={search}
          value={current}
          first={first}
          not={not}
          onChoose={(key) => {
            onChoose(key);
            close();
          }}
        />
      )}
    />
  );
}
