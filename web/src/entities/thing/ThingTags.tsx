import { TagList } from "@/shared/ui/TagList";
import { ThingField } from "./ThingField";
import { ThingName } from "./ThingName";

interface Props {
  label: string;
  kind: string;
  keys: string[];
  /** Names by key, where the page has them; the others are asked for one by one. */
  names?: Map<string, string>;
  /** Never offered, such as the thing itself. */
  without?: string[];
  /** Can't be changed. */
  locked?: boolean;
  onAdd: (key: string) => void;
  onRemove: (key: string) => void;
}

/** Things of one kind by name, to add to and remove from. */
export function ThingTags({
  label,
  kind,
  keys,
  names,
  without = [],
  locked,
  onAdd,
  onRemove,
}: Props) {
  return (
    <TagList
      label={label}
      items={keys.map((key) => ({
        key,
        name: names?.get(key) ?? key,
        content: names?.get(key) ?? <ThingName kind={kind} reference={key} />,
      }))}
      onRemove={locked ? undefined : onRemove}
      add={
        !locked && (
          <ThingField
            label={label}
            look="link"
            value="Add"
            kind={kind}
            without={[...keys, ...without]}
            onChoose={onAdd}
          />
        )
      }
    />
  );
}
