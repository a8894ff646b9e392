import { useState } from "react";
import { Combobox } from "@/shared/ui/Combobox";
import { usePlaceChoices } from "./queries";

interface Props {
  label: string;
  onChoose: (key: string, name: string) => void;
}

/** Chooses a place by part of its name. */
export function PlacePicker({ label, onChoose }: Props) {
  const [text, setText] = useState("");
  const places = usePlaceChoices(text);
  const found = places.data ?? [];
  return (
    <Combobox
      label={label}
      onType={setText}
      loading={places.isFetching}
      options={found.map((it) => ({
        value: it.key,
        label: it.name,
        note: `${it.typeName}, ${it.account}`,
      }))}
      onChoose={(key) => onChoose(key, found.find((it) => it.key === key)?.name ?? key)}
    />
  );
}
