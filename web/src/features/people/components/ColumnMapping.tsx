import { Form, Select } from "antd";
import { FACTS } from "../arrivals";

interface Props {
  columns: string[];
  facts: string[];
  /** What fields are called that an account declares, by fact. */
  labels?: Record<string, string>;
  mapping: Record<string, string>;
  onChange: (mapping: Record<string, string>) => void;
}

/** Chooses which column of a table holds which fact. */
export function ColumnMapping({ columns, facts, labels = {}, mapping, onChange }: Props) {
  const nameOf = (fact: string) => labels[fact] ?? FACTS[fact] ?? fact;
  const whole = Object.fromEntries(facts.map((it) => [it, mapping[it] ?? ""]));
  return (
    <Form layout="inline" aria-label="Columns" style={{ rowGap: 8, margin: "12px 0" }}>
      {facts.map((fact) => (
        <Form.Item key={fact} label={nameOf(fact)}>
          <Select
            size="small"
            aria-label={`Column of: ${nameOf(fact)}`}
            value={whole[fact]}
            popupMatchSelectWidth={false}
            onChange={(column) => onChange({ ...whole, [fact]: column })}
            options={[
              { value: "", label: "not in the table" },
              ...columns.map((it) => ({ value: it, label: it })),
            ]}
          />
        </Form.Item>
      ))}
    </Form>
  );
}
