import { useState } from "react";
import { PlacePicker } from "@/entities/place/PlacePicker";
import { NamePicker } from "@/entities/thing/NamePicker";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { Combobox } from "@/shared/ui/Combobox";

interface Props {
  onChoose: (name: string, value: string) => void;
}

const WHATS = [
  { value: "accessClass=view", label: "view anything" },
  { value: "accessClass=change", label: "change anything" },
  { value: "accessClass=administer", label: "administer anything" },
  { value: "risk=critical", label: "do anything critical" },
  { value: "risk=high", label: "do anything of high risk" },
];

/** Chooses a permission, a class or a risk. */
export function WhatPicker({ onChoose }: Props) {
  return (
    <NamePicker
      label="What"
      kinds={["permissions"]}
      fixed={WHATS}
      onChoose={({ kind, key }) => {
        const [name = "", value = ""] = kind === "fixed" ? key.split("=") : ["permission", key];
        onChoose(name, value);
      }}
    />
  );
}

const WHERES = [
  { value: "on", label: "One place alone" },
  { value: "below", label: "A place and everything below it" },
  { value: "collection", label: "A collection" },
];

/** Chooses a place, a subtree or a collection. */
export function WherePicker({ onChoose }: Props) {
  const [kind, setKind] = useState("");
  if (kind === "") return <Combobox label="Where" options={WHERES} onChoose={setKind} />;
  if (kind === "collection") {
    return (
      <ThingPicker
        kind="collections"
        label="Collection"
        onChoose={(key) => onChoose("collection", key)}
      />
    );
  }
  return <PlacePicker key={kind} label="Place" onChoose={(key) => onChoose(kind, key)} />;
}
