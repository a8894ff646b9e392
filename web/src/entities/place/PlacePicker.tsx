import { NamePicker } from "@/entities/thing/NamePicker";

interface Props {
  label: string;
  onChoose: (key: string, name: string) => void;
}

/** Chooses a place by part of its name. */
export function PlacePicker({ label, onChoose }: Props) {
  return (
    <NamePicker label={label} kinds={["places"]} onChoose={(it) => onChoose(it.key, it.name)} />
  );
}
