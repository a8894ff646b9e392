import type { ReactNode } from "react";
import { ThingName } from "@/entities/thing/ThingName";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { TagList } from "@/shared/ui/TagList";

interface Props {
  label: string;
  kind: string;
  keys: string[];
  between?: string;
  /** Another picker than the things of the kind. */
  picker?: (add: (key: string) => void, without: string[]) => ReactNode;
  onChange: (keys: string[]) => void;
}

/** References to things, shown by name. */
export function References({ label, kind, keys, between, picker, onChange }: Props) {
  return (
    <TagList
      label={label}
      items={keys.map((key) => ({
        key,
        name: key,
        content: <ThingName kind={kind} reference={key} />,
      }))}
      between={between}
      onRemove={(key) => onChange(keys.filter((it) => it !== key))}
      add={
        <InlinePicker
          label={label}
          look="link"
          value="Add"
          picker={(close) => {
            const add = (key: string) => {
              if (!keys.includes(key)) onChange([...keys, key]);
              close();
            };
            return picker ? (
              picker(add, keys)
            ) : (
              <ThingPicker kind={kind} label={label} without={keys} onChoose={add} />
            );
          }}
        />
      }
    />
  );
}
