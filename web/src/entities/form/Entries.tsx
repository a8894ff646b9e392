import { useState } from "react";
import { Button, Input, Select, Space } from "antd";
import { ThingName } from "@/entities/thing/ThingName";
import { ThingField } from "@/entities/thing/ThingField";
import { MomentField } from "@/shared/ui/MomentField";
import { LinkButton } from "@/shared/ui/LinkButton";
import { TagList } from "@/shared/ui/TagList";
import { References } from "./References";

interface SidesProps {
  sides: string[][];
  onChange: (sides: string[][]) => void;
}

/** The sides of an exclusion: two or more, each a list of permissions. */
export function Sides({ sides, onChange }: SidesProps) {
  const shown = [...sides, ...Array<string[]>(Math.max(0, 2 - sides.length)).fill([])];
  return (
    <>
      {shown.map((side, at) => (
        <References
          key={at}
          label={`Side ${at + 1}`}
          kind="permissions"
          keys={side}
          between="or"
          onChange={(it) => onChange(shown.map((old, i) => (i === at ? it : old)))}
        />
      ))}
      <Space>
        <LinkButton onClick={() => onChange([...shown, []])}>Add a side</LinkButton>
        {shown.length > 2 && (
          <LinkButton onClick={() => onChange(shown.slice(0, -1))}>Remove the last side</LinkButton>
        )}
      </Space>
    </>
  );
}

export interface Exemption {
  principal: string;
  until?: string;
  reason?: string;
}

interface ExemptionsProps {
  people: Exemption[];
  onChange: (people: Exemption[]) => void;
}

/** People whom an exclusion does not bind, each until a day and for a reason. */
export function Exemptions({ people, onChange }: ExemptionsProps) {
  const put = (at: number, next: Partial<Exemption>) =>
    onChange(
      people.map((it, i) => {
        if (i !== at) return it;
        const { until, reason, ...rest } = { ...it, ...next };
        return { ...rest, ...(until && { until }), ...(reason && { reason }) };
      }),
    );
  return (
    <>
      {people.map((it, at) => (
        <Space key={it.principal} wrap>
          <ThingName kind="principals" reference={it.principal} />
          <MomentField
            label="Exempt until"
            edge="end"
            placeholder="no end"
            value={it.until ?? ""}
            onChange={(until) => put(at, { until })}
          />
          <Input
            aria-label="Reason for the exemption"
            placeholder="reason"
            value={it.reason ?? ""}
            onChange={(event) => put(at, { reason: event.target.value })}
          />
          <LinkButton
            aria-label={`Remove the exemption of ${it.principal}`}
            onClick={() => onChange(people.filter((_, i) => i !== at))}
          >
            Remove
          </LinkButton>
        </Space>
      ))}
      <ThingField
        label="Exemption"
        look="link"
        value="Add a person"
        search="Who"
        kind="principals"
        without={people.map((it) => it.principal)}
        onChoose={(principal) => onChange([...people, { principal }])}
      />
    </>
  );
}

export interface Reached {
  unit: string;
  level: string;
}

interface ReachProps {
  reach: Reached[];
  onChange: (reach: Reached[]) => void;
}

/** Further units that “their own unit” covers, each for viewing or in full. */
export function Reach({ reach, onChange }: ReachProps) {
  return (
    <>
      {reach.map((it, at) => (
        <Space key={it.unit} wrap>
          <ThingName kind="units" reference={it.unit} />
          <Select
            size="small"
            aria-label={`Level in ${it.unit}`}
            value={it.level}
            options={[
              { value: "view", label: "view only" },
              { value: "full", label: "full" },
            ]}
            onChange={(level) =>
              onChange(reach.map((one, i) => (i === at ? { ...one, level } : one)))
            }
          />
          <LinkButton
            aria-label={`Remove ${it.unit}`}
            onClick={() => onChange(reach.filter((_, i) => i !== at))}
          >
            Remove
          </LinkButton>
        </Space>
      ))}{" "}
      <ThingField
        label="Reach"
        look="link"
        value="Add a unit"
        search="Unit"
        kind="units"
        without={reach.map((it) => it.unit)}
        onChoose={(unit) => onChange([...reach, { unit, level: "view" }])}
      />
    </>
  );
}

interface AttributesProps {
  /** What the values are together, in the plural. */
  label: string;
  values: Record<string, string>;
  onChange: (values: Record<string, string>) => void;
}

/** Values by name, one added at a time. */
export function Attributes({ label, values, onChange }: AttributesProps) {
  const [name, setName] = useState("");
  const [value, setValue] = useState("");
  function add() {
    if (!name.trim()) return;
    onChange({ ...values, [name.trim()]: value });
    setName("");
    setValue("");
  }
  return (
    <>
      <TagList
        label={label}
        items={Object.entries(values).map(([key, it]) => ({
          key,
          name: key,
          content: `${key}: ${it || "(empty)"}`,
        }))}
        onRemove={(key) =>
          onChange(Object.fromEntries(Object.entries(values).filter(([it]) => it !== key)))
        }
      />
      <Space.Compact>
        <Input
          aria-label={`${label}: name`}
          placeholder="name"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Input
          aria-label={`${label}: value`}
          placeholder="value"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          onPressEnter={add}
        />
        <Button disabled={!name.trim()} onClick={add}>
          Add
        </Button>
      </Space.Compact>
    </>
  );
}
