import { useState } from "react";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { Combobox } from "@/shared/ui/Combobox";
import type { Named } from "./model";

const KINDS = [
  { value: "roles", label: "A role", prefix: "role:" },
  { value: "permissionSets", label: "A permission set", prefix: "set:" },
  { value: "permissions", label: "A single permission", prefix: "permission:" },
];

/** Chooses what is granted: a role, a permission set or a single permission. */
export function GrantPicker({ onChoose }: { onChoose: (grant: Named) => void }) {
  const [kind, setKind] = useState("");
  const prefix = KINDS.find((it) => it.value === kind)?.prefix;
  return prefix === undefined ? (
    <Combobox label="What" options={KINDS} onChoose={setKind} />
  ) : (
    <ThingPicker
      key={kind}
      kind={kind}
      prefix={prefix}
      label="What"
      onChoose={(ref, name) => onChoose({ ref, name })}
    />
  );
}
