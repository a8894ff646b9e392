import { Form, Input, Select } from "antd";
import { textOf, thingFrom, type Thing } from "@/shared/lib/thing";
import { isRequired, type DeclaredField } from "./fieldQueries";

interface Props {
  fields: DeclaredField[];
  thing: Thing;
  /** Whether what is missing is said. */
  tried: boolean;
  onChange: (attributes: Thing) => void;
}

/** The fields that the home account of somebody asks for. */
export function DeclaredFields({ fields, thing, tried, onChange }: Props) {
  const attributes = thingFrom(thing["attributes"]);
  const put = (key: string, value: string) => {
    const others = Object.entries(attributes).filter(([other]) => other !== key);
    onChange(Object.fromEntries(value === "" ? others : [...others, [key, value]]));
  };
  return fields.map((it) => {
    const value = textOf(attributes, it.key);
    const missing = tried && isRequired(it, thing) && value.trim() === "";
    return (
      <Form.Item
        key={it.key}
        label={it.label}
        required={isRequired(it, thing)}
        {...(missing && { validateStatus: "error" as const, help: `Enter “${it.label}”.` })}
      >
        {it.choices.length > 0 ? (
          <Select
            aria-label={it.label}
            style={{ minWidth: 200 }}
            value={value || undefined}
            placeholder="choose"
            allowClear
            options={it.choices.map((choice) => ({ value: choice, label: choice }))}
            onChange={(chosen: string | undefined) => put(it.key, chosen ?? "")}
          />
        ) : (
          <Input
            aria-label={it.label}
            value={value}
            maxLength={200}
            onChange={(event) => put(it.key, event.target.value)}
          />
        )}
      </Form.Item>
    );
  });
}
