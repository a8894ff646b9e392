import { Checkbox } from "antd";
import { Field } from "../../../components/Field";
import { ThingPicker } from "../../../components/ThingPicker";
import { GivesPicker, SubjectPicker } from "../../assign/components/Composer";
import { ScopeBuilder } from "../../assign/components/ScopeBuilder";
import type { Clause } from "../../assign/model";
import { dayOf, instantAt, type FieldSpec } from "../model";
import { Attributes } from "./Attributes";
import { Chips } from "./Chips";
import { ThingName } from "./ThingName";

interface Props {
  spec: FieldSpec;
  value: unknown;
  locked?: boolean | undefined;
  onChange: (value: unknown) => void;
}

const texts = (value: unknown) => (Array.isArray(value) ? (value as string[]) : []);

/** One field of a thing, filled in as its shape asks. */
export function FieldEditor({ spec, value, locked, onChange }: Props) {
  const { label, shape } = spec;
  const text = typeof value === "string" ? value : "";
  if (typeof shape === "object" && "one" in shape) {
    if (locked) return <ThingName kind={shape.one} reference={text} />;
    return (
      <>
        <Field
          label={label}
          className="link"
          value={text ? <ThingName kind={shape.one} reference={text} /> : (spec.silent ?? "choose")}
          picker={(close) => (
            <ThingPicker
              kind={shape.one}
              label={label}
              onChoose={(it) => {
                onChange(it);
                close();
              }}
            />
          )}
        />
        {text && !spec.required && (
          <button
            type="button"
            className="link"
            aria-label={`Without ${label}`}
            onClick={() => onChange(undefined)}
          >
            ✕
          </button>
        )}
      </>
    );
  }
  if (typeof shape === "object" && "many" in shape) {
    return <Chips label={label} kind={shape.many} keys={texts(value)} onChange={onChange} />;
  }
  if (typeof shape === "object") {
    return (
      <select
        className="plain-input"
        aria-label={label}
        value={text}
        disabled={locked ?? false}
        onChange={(event) => onChange(event.target.value || undefined)}
      >
        {(!text || !spec.required) && <option value="">{spec.silent ?? "choose"}</option>}
        {shape.choice
          .filter((it) => it !== spec.silent)
          .map((it) => (
            <option key={it}>{it}</option>
          ))}
      </select>
    );
  }
  switch (shape) {
    case "text":
      return (
        <input
          className="plain-input wide"
          aria-label={label}
          value={text}
          maxLength={2000}
          onChange={(event) => onChange(event.target.value)}
        />
      );
    case "number":
      return (
        <input
          className="plain-input"
          type="number"
          min={0}
          aria-label={label}
          placeholder={spec.silent}
          value={typeof value === "number" ? value : ""}
          onChange={(event) =>
            onChange(event.target.value === "" ? undefined : Number(event.target.value))
          }
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
        <input
          className="plain-input"
          type="date"
          aria-label={label}
          value={dayOf(value)}
          onChange={(event) => onChange(instantAt(event.target.value, value))}
        />
      );
    case "scope":
      return (
        <ScopeBuilder
          label={label}
          scope={(Array.isArray(value) ? value : []) as Clause[]}
          onChange={onChange}
        />
      );
    case "gives":
      return (
        <Field
          label={label}
          className="link"
          value={text ? <ThingName kind="roles" reference={text} /> : "choose"}
          picker={(close) => (
            <GivesPicker
              onChoose={(it) => {
                onChange(it.ref);
                close();
              }}
            />
          )}
        />
      );
    case "limit":
      return (
        <>
          <Checkbox
            checked={value === "all"}
            onChange={(event) => onChange(event.target.checked ? "all" : [])}
          >
            all that may be used for another
          </Checkbox>
          {value !== "all" && (
            <Chips
              label={label}
              kind="roles"
              keys={texts(value)}
              onChange={onChange}
              picker={(add) => <GivesPicker onChoose={(it) => add(it.ref)} />}
            />
          )}
        </>
      );
    case "subjects":
      return (
        <Chips
          label={label}
          kind="groups"
          keys={texts(value)}
          onChange={onChange}
          picker={(add, without) => (
            <SubjectPicker without={without} onChoose={(it) => add(it.ref)} />
          )}
        />
      );
    case "sides":
      return (
        <Sides sides={Array.isArray(value) ? (value as string[][]) : []} onChange={onChange} />
      );
    case "exempt":
      return (
        <Exempt people={Array.isArray(value) ? (value as Spared[]) : []} onChange={onChange} />
      );
    case "reach":
      return <Reach reach={Array.isArray(value) ? (value as Reached[]) : []} onChange={onChange} />;
    case "attributes":
      return <Attributes values={(value as Record<string, string>) ?? {}} onChange={onChange} />;
    default:
      return shape satisfies never;
  }
}

function Sides({ sides, onChange }: { sides: string[][]; onChange: (it: string[][]) => void }) {
  const shown =
    sides.length < 2 ? [...sides, ...Array<string[]>(2 - sides.length).fill([])] : sides;
  const put = (at: number, side: string[]) =>
    onChange(shown.map((it, i) => (i === at ? side : it)));
  return (
    <>
      {shown.map((side, at) => (
        <div key={at} className="side">
          <Chips
            label={`Side ${at + 1}`}
            kind="permissions"
            keys={side}
            between="or"
            onChange={(it) => put(at, it)}
          />
        </div>
      ))}
      <button type="button" className="link" onClick={() => onChange([...shown, []])}>
        another side
      </button>
      {shown.length > 2 && (
        <button type="button" className="link" onClick={() => onChange(shown.slice(0, -1))}>
          without the last
        </button>
      )}
    </>
  );
}

interface Spared {
  principal: string;
  until?: string;
  reason?: string;
}

function Exempt({ people, onChange }: { people: Spared[]; onChange: (it: Spared[]) => void }) {
  const put = (at: number, next: Partial<Spared>) =>
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
        <p key={it.principal} className="entry">
          <ThingName kind="principals" reference={it.principal} /> until{" "}
          <input
            className="plain-input"
            type="date"
            aria-label="Spared until"
            value={dayOf(it.until)}
            onChange={(event) => put(at, { until: instantAt(event.target.value, it.until) ?? "" })}
          />{" "}
          because{" "}
          <input
            className="plain-input"
            aria-label="Spared because"
            value={it.reason ?? ""}
            onChange={(event) => put(at, { reason: event.target.value })}
          />
          <button
            type="button"
            className="link"
            aria-label={`Spare ${it.principal} no longer`}
            onClick={() => onChange(people.filter((_, i) => i !== at))}
          >
            ✕
          </button>
        </p>
      ))}
      <Field
        label="Spare somebody"
        className="link"
        value="spare somebody"
        picker={(close) => (
          <ThingPicker
            kind="principals"
            label="Who"
            without={people.map((it) => it.principal)}
            onChoose={(principal) => {
              onChange([...people, { principal }]);
              close();
            }}
          />
        )}
      />
    </>
  );
}

interface Reached {
  unit: string;
  level: string;
}

function Reach({ reach, onChange }: { reach: Reached[]; onChange: (it: Reached[]) => void }) {
  return (
    <>
      {reach.map((it, at) => (
        <p key={it.unit} className="entry">
          <ThingName kind="units" reference={it.unit} />{" "}
          <select
            className="plain-input"
            aria-label={`How far ${it.unit}`}
            value={it.level}
            onChange={(event) =>
              onChange(
                reach.map((one, i) => (i === at ? { ...one, level: event.target.value } : one)),
              )
            }
          >
            <option value="view">for viewing</option>
            <option value="full">in full</option>
          </select>
          <button
            type="button"
            className="link"
            aria-label={`Without ${it.unit}`}
            onClick={() => onChange(reach.filter((_, i) => i !== at))}
          >
            ✕
          </button>
        </p>
      ))}
      <Field
        label="Reach a unit"
        className="link"
        value="reach a unit"
        picker={(close) => (
          <ThingPicker
            kind="units"
            label="Unit"
            without={reach.map((it) => it.unit)}
            onChoose={(unit) => {
              onChange([...reach, { unit, level: "view" }]);
              close();
            }}
          />
        )}
      />
    </>
  );
}
