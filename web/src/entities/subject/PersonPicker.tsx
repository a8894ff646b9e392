import { useState } from "react";
import { Combobox, type Option } from "@/shared/ui/Combobox";
import { usePeopleChoices } from "./queries";

interface Props {
  label: string;
  value?: string;
  /** Choices that come before the people while nothing is typed. */
  first?: Option[];
  not?: string;
  onChoose: (key: string) => void;
}

/** Chooses a person or service that the viewer may ask about. */
export function PersonPicker({ label, value, first = [], not, onChoose }: Props) {
  const [text, setText] = useState("");
  const people = usePeopleChoices(text);
  const options = (people.data ?? [])
    .filter((it) => it.key !== not)
    .map((it) => ({
      value: it.key,
      label: it.name,
      note: [it.title, it.accountName].filter(Boolean).join(", "),
    }));
  return (
    <Combobox
      label={label}
      value={value}
      loading={people.isFetching}
      onType={setText}
      options={text === "" ? [...first, ...options] : options}
      onChoose={onChoose}
    />
  );
}
