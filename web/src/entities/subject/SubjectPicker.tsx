import { NamePicker } from "@/entities/thing/NamePicker";
import type { Named } from "./model";

const EVERYONE = [
  { value: "signed-in", label: "Everyone signed in" },
  { value: "anyone", label: "Anyone, signed in or not" },
  { value: "anonymous", label: "Only people who are not signed in" },
];

interface Props {
  without: string[];
  /** Whether only what can be a member is offered: groups, people and services. */
  members?: boolean;
  onChoose: (subject: Named) => void;
}

/** Chooses who an assignment or expectation is about, or who joins a group. */
export function SubjectPicker({ without, members, onChoose }: Props) {
  return (
    <NamePicker
      label="Who"
      kinds={members ? ["principals", "groups"] : ["principals", "groups", "patterns", "accounts"]}
      without={without}
      fixed={members ? [] : EVERYONE}
      onChoose={({ ref, kind, name }) =>
        onChoose({ ref, name: kind === "accounts" ? `Everyone in ${name}` : name })
      }
    />
  );
}
