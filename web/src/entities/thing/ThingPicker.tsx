import { NamePicker } from "./NamePicker";

interface Props {
  kind: string;
  label: string;
  /** Precedes the key in the chosen value, such as `group:`. */
  prefix?: string;
  without?: string[];
  /** Offers only what the viewer may change. */
  changeable?: boolean;
  onChoose: (value: string, name: string) => void;
}

/** Chooses a thing of one kind by part of its name. */
export function ThingPicker(props: Props) {
  const { kind, label, prefix = "", without = [], changeable, onChoose } = props;
  return (
    <NamePicker
      kinds={[kind]}
      label={label}
      without={without.map((it) => it.slice(prefix.length))}
      changeable={changeable}
      onChoose={(it) => onChoose(prefix + it.key, it.name)}
    />
  );
}
