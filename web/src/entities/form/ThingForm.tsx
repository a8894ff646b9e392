import { useState } from "react";
import { Button, Form, Modal } from "antd";
import { useEdit } from "@/entities/draft/queries";
import type { ThingView } from "@/entities/thing/queries";
import { thingFrom, type Thing } from "@/shared/lib/thing";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { FieldEditor } from "./FieldEditor";
import { faultsIn, formOf, specOf, thingOf } from "./model";

interface Props {
  kind: string;
  /** The thing to edit; without it, the form creates one. */
  existing?: ThingView;
  /** What the page knows of a new thing. */
  given?: Thing;
  onClose: () => void;
}

/** Creates or edits one thing of any kind in the draft, from the declaration of its fields. */
export function ThingForm({ kind, existing, given, onClose }: Props) {
  const spec = specOf(kind);
  const [thing, setThing] = useState<Thing>(() =>
    formOf(existing ? thingFrom(existing.thing) : (given ?? {})),
  );
  const [tried, setTried] = useState(false);
  const edit = useEdit();
  const faults = faultsIn(spec, thing);
  const faulty = Object.keys(faults).length > 0;

  function submit() {
    setTried(true);
    if (faulty) return;
    const after = thingOf(thing);
    const which = existing?.key ? { key: existing.key } : {};
    const before = existing && !existing.key ? { before: thingFrom(existing.thing) } : {};
    edit.mutate([{ kind, ...which, ...before, after }], { onSuccess: onClose });
  }

  return (
    <Modal
      open
      onCancel={onClose}
      width={680}
      destroyOnHidden
      title={existing ? `Edit ${spec.one} ${existing.name}` : `New ${spec.one}`}
      footer={
        <>
          {tried && faulty && (
            <span className="quiet" role="alert" style={{ marginInlineEnd: 12 }}>
              Fix the errors listed above.
            </span>
          )}
          <Button onClick={onClose}>Cancel</Button>
          <Button type="primary" loading={edit.isPending} onClick={submit}>
            Add to draft
          </Button>
        </>
      }
    >
      <p className="note">{spec.about}</p>
      <Form layout="vertical" component={false}>
        {spec.fields.map((it) => {
          const fault = tried ? faults[it.field] : undefined;
          return (
            <Form.Item
              key={it.field}
              label={it.label}
              required={it.required ?? false}
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
        })}
      </Form>
      {edit.isError && <ProblemAlert problem={edit.error} />}
    </Modal>
  );
}
