import { NamePicker } from "@/entities/thing/NamePicker";
import type { Option } from "@/shared/ui/Combobox";

interface Props {
  label: string;
  value?: string | undefined;
  /** Choices that come before the people. */
  first?: Option[] | undefined;
  not?: string | undefined;
  onChoose: (key: string) => void;
}

/** Chooses a person or service that the viewer may ask about. */
export function PersonPicker({ label, value, first, not, onChoose }: Props) {
  return (
    <NamePicker
      label={label}
      kinds={["askable"]}
      value={value}
      fixed={first}
      without={not ? [not] : []}
      onChoose={(it) => onChoose(it.key)}
    />
  );
}
