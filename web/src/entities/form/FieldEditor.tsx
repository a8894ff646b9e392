import { Checkbox, Input, InputNumber, Select } from "antd";
import type { Clause } from "@/entities/scope/model";
import { ScopeBuilder } from "@/entities/scope/ScopeBuilder";
import { GrantPicker } from "@/entities/subject/GrantPicker";
import { SubjectPicker } from "@/entities/subject/SubjectPicker";
import { MomentField } from "@/shared/ui/MomentField";
import type { FieldSpec } from "./declaration";
import { Attributes, Exemptions, Reach, Sides, type Exemption, type Reached } from "./Entries";
import { Reference } from "./Reference";
import { References } from "./References";

interface Props {
  spec: FieldSpec;
  value: unknown;
  locked?: boolean | undefined;
  onChange: (value: unknown) => void;
}

function list<T>(value: unknown): T[] {
  return Array.isArray(value) ? (value as T[]) : [];
}

/** Edits one field of a thing by its shape. */
export function FieldEditor({ spec, value, locked, onChange }: Props) {
  const { label, shape } = spec;
  const text = typeof value === "string" ? value : "";
  if (typeof shape === "object") {
    if ("one" in shape) {
      return (
        <Reference
          label={label}
          kind={shape.one}
          reference={text}
          none={spec.silent}
          locked={locked}
          removable={!spec.required}
          onChange={onChange}
        />
      );
    }
    if ("many" in shape) {
      return <References label={label} kind={shape.many} keys={list(value)} onChange={onChange} />;
    }
    return (
      <Select
        aria-label={label}
        style={{ minWidth: 200 }}
        value={text || undefined}
        placeholder={spec.silent ?? "choose"}
        disabled={locked ?? false}
        allowClear={!spec.required}
        options={shape.choice.map((it) => ({ value: it, label: it }))}
        onChange={(it: string | undefined) => onChange(it === spec.silent ? undefined : it)}
      />
    );
  }
  switch (shape) {
    case "text":
      return (
        <Input
          aria-label={label}
          value={text}
          maxLength={2000}
          onChange={(event) => onChange(event.target.value)}
        />
      );
    case "number":
      return (
        <InputNumber
          min={0}
          precision={0}
          aria-label={label}
          placeholder={spec.silent}
          value={typeof value === "number" ? value : null}
          onChange={(it) => onChange(it ?? undefined)}
        />
      );
    case "flag":
      return (
        <Checkbox
          aria-label={label}
          checked={value === true}
          onChange={(event) => onChange(event.target.checked)}
        />
      );
    case "date":
      return (
        <MomentField
          label={label}
          edge={spec.field === "until" ? "end" : "first"}
          value={typeof value === "string" ? value : ""}
          placeholder={spec.field === "until" ? "no end" : "any day"}
          onChange={(instant) => onChange(instant === "" ? undefined : instant)}
        />
      );
    case "scope":
      return <ScopeBuilder label={label} scope={list<Clause>(value)} onChange={onChange} />;
    case "gives":
      return (
        <Reference
          label={label}
          kind="roles"
          reference={text}
          picker={(choose) => <GrantPicker onChoose={(it) => choose(it.ref)} />}
          onChange={onChange}
        />
      );
    case "limit":
      return (
        <>
          <Checkbox
            checked={value === "all"}
            onChange={(event) => onChange(event.target.checked ? "all" : [])}
          >
            Everything that can be delegated
          </Checkbox>
          {value !== "all" && (
            <References
              label={label}
              kind="roles"
              keys={list(value)}
              onChange={onChange}
              picker={(add) => <GrantPicker onChoose={(it) => add(it.ref)} />}
            />
          )}
        </>
      );
    case "subjects":
      return (
        <References
          label={label}
          kind="groups"
          keys={list(value)}
          onChange={onChange}
          picker={(add, without) => (
            <SubjectPicker without={without} onChoose={(it) => add(it.ref)} />
          )}
        />
      );
    case "sides":
      return <Sides sides={list(value)} onChange={onChange} />;
    case "exempt":
      return <Exemptions people={list<Exemption>(value)} onChange={onChange} />;
    case "reach":
      return <Reach reach={list<Reached>(value)} onChange={onChange} />;
    case "attributes":
      return (
        <Attributes
          label={label}
          values={(value ?? {}) as Record<string, string>}
          onChange={onChange}
        />
      );
    default:
      return shape satisfies never;
  }
}
