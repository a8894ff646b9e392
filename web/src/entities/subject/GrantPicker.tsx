import { NamePicker } from "@/entities/thing/NamePicker";
import type { Named } from "./model";

/** Chooses what is granted: a role, a permission set or a single permission. */
export function GrantPicker({ onChoose }: { onChoose: (grant: Named) => void }) {
  return (
    <NamePicker
      label="What"
      kinds={["roles", "permissionSets", "permissions"]}
      onChoose={({ ref, name }) => onChoose({ ref, name })}
    />
  );
}
