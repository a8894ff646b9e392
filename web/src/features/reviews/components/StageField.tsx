import { Checkbox, Space } from "antd";
import { NamePicker } from "@/entities/thing/NamePicker";
import { useThingName } from "@/entities/thing/ThingName";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { DECIDERS, stageInWords } from "../model";

interface Props {
  label: string;
  /** Who is asked first, and who where there is none. */
  stage: string[];
  onChange: (stage: string[]) => void;
  onRemove: (() => void) | undefined;
}

/** Who decides, in the order in which they are asked; a person by name comes last. */
export function StageField({ label, stage, onChange, onRemove }: Props) {
  const person = stage.find((it) => it.startsWith("person:"))?.slice(7) ?? "";
  const name = useThingName("principals", person);
  const others = stage.filter((it) => !it.startsWith("person:"));
  const put = (roles: string[], who: string) =>
    onChange([...roles, ...(who === "" ? [] : [`person:${who}`])]);
  return (
    <InlinePicker
      label={label}
      value={stageInWords(stage, () => name)}
      picker={() => (
        <Space orientation="vertical">
          {Object.entries(DECIDERS).map(([key, words]) => (
            <Checkbox
              key={key}
              checked={others.includes(key)}
              disabled={others.length === 1 && others[0] === key && person === ""}
              onChange={(event) =>
                put(
                  event.target.checked ? [...others, key] : others.filter((it) => it !== key),
                  person,
                )
              }
            >
              {words}
              {others.includes(key) && others.length > 1 && ` (${others.indexOf(key) + 1})`}
            </Checkbox>
          ))}
          <NamePicker
            label="Else a person"
            kinds={["principals"]}
            value={person === "" ? undefined : person}
            onChoose={(it) => put(others, it.key)}
          />
          {person !== "" && others.length > 0 && (
            <LinkButton onClick={() => put(others, "")}>Remove {name}</LinkButton>
          )}
          {onRemove && <LinkButton onClick={onRemove}>Remove this step</LinkButton>}
        </Space>
      )}
    />
  );
}
