import { useState } from "react";
import { useThings } from "../features/things/queries";
import { Choose } from "./Choose";

interface Props {
  kind: string;
  label: string;
  /** What stands in front of the key in what is chosen, `group:`. */
  prefix?: string;
  without?: string[];
  onChoose: (value: string, name: string) => void;
}

/** Chooses a thing of one kind by a part of its name. */
export function ThingPicker({ kind, label, prefix = "", without = [], onChoose }: Props) {
  const [text, setText] = useState("");
  const things = useThings(kind, { text, limit: 40 });
  const found = (things.data?.things ?? []).filter(
    (it) => it.key && it.mark !== "removes" && !without.includes(prefix + it.key),
  );
  return (
    <Choose
      label={label}
      onType={setText}
      waiting={things.isFetching}
      options={found.map((it) => ({
        value: prefix + (it.key ?? ""),
        label: it.name,
        ...(it.account && { note: it.account }),
      }))}
      onChoose={(value) =>
        onChoose(value, found.find((it) => prefix + (it.key ?? "") === value)?.name ?? value)
      }
    />
  );
}
