import { useState } from "react";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { useThings } from "@/entities/thing/queries";
import { textOf } from "@/shared/lib/thing";
import { Combobox } from "@/shared/ui/Combobox";
import type { Named } from "./model";

const KINDS = [
  { value: "groups", label: "A group" },
  { value: "principals", label: "A person or service" },
  { value: "patterns", label: "Everyone with a pattern" },
  { value: "accounts", label: "Everyone in an account" },
  { value: "signed-in", label: "Everyone signed in" },
  { value: "anyone", label: "Anyone, signed in or not" },
  { value: "anonymous", label: "Only people who are not signed in" },
];

interface Props {
  without: string[];
  onChoose: (subject: Named) => void;
}

/** Chooses who an assignment or expectation is about: first the kind, then which one. */
export function SubjectPicker({ without, onChoose }: Props) {
  const [kind, setKind] = useState("");
  if (kind === "") {
    return (
      <Combobox
        label="Who"
        options={KINDS}
        onChoose={(value) => {
          const fixed = ["signed-in", "anyone", "anonymous"].includes(value);
          const name = KINDS.find((it) => it.value === value)?.label ?? value;
          if (fixed) onChoose({ ref: value, name });
          else setKind(value);
        }}
      />
    );
  }
  if (kind === "principals") return <PrincipalPicker without={without} onChoose={onChoose} />;
  return (
    <ThingPicker
      key={kind}
      kind={kind}
      prefix={kind.slice(0, -1) + ":"}
      label="Who"
      without={without}
      onChoose={(ref, name) => onChoose({ ref, name })}
    />
  );
}

function PrincipalPicker({ without, onChoose }: Props) {
  const [text, setText] = useState("");
  const people = useThings("principals", { text, limit: 40 });
  const found = (people.data?.things ?? []).map((it) => ({
    value: `${textOf(it.thing, "kind")}:${it.key ?? ""}`,
    label: it.name,
    note: it.account,
  }));
  return (
    <Combobox
      key="principals"
      label="Person or service"
      onType={setText}
      loading={people.isFetching}
      options={found.filter((it) => !without.includes(it.value))}
      onChoose={(ref) =>
        onChoose({ ref, name: found.find((it) => it.value === ref)?.label ?? ref })
      }
    />
  );
}
