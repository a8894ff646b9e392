import { useState } from "react";
import { Combobox } from "@/shared/ui/Combobox";
import { useThings } from "./queries";

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
export function ThingPicker({
  kind,
  label,
  prefix = "",
  without = [],
  changeable,
  onChoose,
}: Props) {
  const [text, setText] = useState("");
  const things = useThings(kind, { text, limit: 40 });
  const found = (things.data?.things ?? []).filter(
    (it) =>
      it.key &&
      it.mark !== "removes" &&
      !(changeable && it.cannot) &&
      !without.includes(prefix + it.key),
  );
  return (
    <Combobox
      label={label}
      onType={setText}
      loading={things.isFetching}
      options={found.map((it) => ({
        value: prefix + (it.key ?? ""),
        label: it.name,
        note: it.account,
      }))}
      onChoose={(value) =>
        onChoose(value, found.find((it) => prefix + (it.key ?? "") === value)?.name ?? value)
      }
    />
  );
}
