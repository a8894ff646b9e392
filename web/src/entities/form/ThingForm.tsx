import { useState } from "react";
import { Button, Collapse, Form, Modal } from "antd";
import { madeIn, useEdit } from "@/entities/draft/queries";
import type { ThingView } from "@/entities/thing/queries";
import { textOf, thingFrom, type Thing } from "@/shared/lib/thing";
import { useKept } from "@/shared/lib/useKept";
import { useFormGuard } from "@/shared/ui/FormGuard";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { FieldSpec } from "./declaration";
import { DeclaredFields } from "./DeclaredFields";
import { FieldEditor } from "./FieldEditor";
import { missingIn, useDeclaredFields } from "./fieldQueries";
import { faultsIn, formOf, isNeeded, specOf, thingOf } from "./model";

interface Props {
  kind: string;
  /** The thing to edit; without it, the form creates one. */
  existing?: ThingView;
  /** What the page knows of a new thing. */
  given?: Thing;
  /** What a new thing is called, where that is narrower than its kind. */
  one?: string;
  /** Fields that the page has decided, and that are not shown. */
  decided?: string[];
  onClose: () => void;
  /** Gets the key that the server gave to the new thing. */
  onMade?: (key: string) => void;
}

/** Creates or edits one thing of any kind in the draft, from the declaration of its fields. */
export function ThingForm({ kind, existing, given, one, decided = [], onClose, onMade }: Props) {
  const spec = specOf(kind);
  const kept = useKept<Thing>(`${kind}:${existing?.key ?? existing?.said ?? "new"}`, () =>
    existing ? formOf(spec, thingFrom(existing.thing)) : { ...spec.proposes?.(), ...given },
  );
  const { value: thing, setValue: setThing } = kept;
  const guard = useFormGuard(kept, onClose);
  const [tried, setTried] = useState(false);
  const edit = useEdit();
  const faults = faultsIn(spec, thing);
  const home = kind === "principals" ? textOf(thing, "account") : "";
  const declared = (useDeclaredFields(home).data?.fields ?? []).map((it) => it.field);
  // who is there already is held to them once their attributes change
  const held =
    !existing ||
    JSON.stringify(thing["attributes"]) !== JSON.stringify(thingFrom(existing.thing)["attributes"]);
  const faulty = Object.keys(faults).length > 0 || (held && missingIn(declared, thing).length > 0);

  function submit() {
    setTried(true);
    if (faulty) return;
    const after = thingOf(spec, thing);
    const which = existing?.key ? { key: existing.key } : {};
    const before = existing && !existing.key ? { before: thingFrom(existing.thing) } : {};
    edit.mutate([{ kind, ...which, ...before, after }], {
      onSuccess: (open) => {
        kept.forget();
        onClose();
        const made = existing ? undefined : madeIn(open, kind);
        if (made) onMade?.(made);
      },
    });
  }

  function item(it: FieldSpec) {
    const fault = tried ? faults[it.field] : undefined;
    return (
      <Form.Item
        key={it.field}
        label={it.label}
        required={isNeeded(it, thing)}
        help={fault ?? it.note}
        {...(fault && { validateStatus: "error" as const })}
      >
        <FieldEditor
          spec={it}
          locked={!!existing && it.fixed}
          value={thing[it.field]}
          onChange={(value) => setThing((old) => ({ ...old, [it.field]: value }))}
        />
      </Form.Item>
    );
  }

  // a new thing begins with what is needed first; details that are filled in already stay in sight
  const short = !existing && spec.fields.some((it) => it.first);
  const isFirst = (it: FieldSpec) =>
    !short || isNeeded(it, thing) || it.first === true || faults[it.field] !== undefined;
  const fields = spec.fields.filter(
    (it) => !decided.includes(it.field) && (it.asked?.(thing) ?? true),
  );
  const first = fields.filter(isFirst);
  const more = fields.filter((it) => !isFirst(it));

  return (
    <Modal
      open
      onCancel={guard.close}
      width={680}
      destroyOnHidden
      title={existing ? `Edit ${spec.one} ${existing.name}` : `New ${one ?? spec.one}`}
      footer={
        <>
          {tried && faulty && (
            <span className="quiet" role="alert" style={{ marginInlineEnd: 12 }}>
              Fix the errors listed above.
            </span>
          )}
          <Button onClick={guard.close}>Cancel</Button>
          <Button type="primary" loading={edit.isPending} onClick={submit}>
            Add to draft
          </Button>
        </>
      }
    >
      {guard.note}
      <p className="note">{spec.about}</p>
      <Form layout="vertical" component={false}>
        {first.map(item)}
        <DeclaredFields
          fields={declared}
          thing={thing}
          tried={tried && held}
          onChange={(attributes) => setThing((old) => ({ ...old, attributes }))}
        />
        {more.length > 0 && (
          <Collapse
            ghost
            size="small"
            items={[{ key: "more", label: "More details", children: more.map(item) }]}
          />
        )}
      </Form>
      {edit.isError && <ProblemAlert problem={edit.error} />}
      {guard.question}
    </Modal>
  );
}
