import { useState } from "react";
import { Button, Modal } from "antd";
import { ProblemNote } from "../../../components/ProblemNote";
import type { Thing } from "../../../lib/thing";
import { useEdit } from "../../draft/queries";
import { thingOfView, type ThingView } from "../../things/queries";
import { formOf, missingIn, specOf, thingOf } from "../model";
import { FieldEditor } from "./FieldEditor";

interface Props {
  kind: string;
  /** What is changed; without it something new is made. */
  existing?: ThingView;
  /** What the page already knows of something new. */
  given?: Thing;
  onClose: () => void;
}

/** Makes or changes one thing of any kind, field by field, into the draft. */
export function ThingForm({ kind, existing, given, onClose }: Props) {
  const spec = specOf(kind);
  const [thing, setThing] = useState<Thing>(() =>
    formOf(existing ? thingOfView(existing) : (given ?? {})),
  );
  const edit = useEdit();
  const missing = missingIn(spec, thing);

  function submit() {
    const after = thingOf(thing);
    const which = existing?.key ? { key: existing.key } : {};
    const before = existing && !existing.key ? { before: thingOfView(existing) } : {};
    edit.mutate([{ kind, ...which, ...before, after }], { onSuccess: onClose });
  }

  return (
    <Modal
      open
      onCancel={onClose}
      width={680}
      destroyOnHidden
      title={existing ? `Change the ${spec.one} ${existing.name}` : `New ${spec.one}`}
      footer={
        <>
          {missing && <span className="composer-missing">{missing}</span>}
          <Button onClick={onClose}>Cancel</Button>
          <Button type="primary" disabled={!!missing} loading={edit.isPending} onClick={submit}>
            Into the draft
          </Button>
        </>
      }
    >
      <p className="note">{spec.about}</p>
      <dl className="thing-form">
        {spec.fields.map((it) => (
          <div key={it.field}>
            <dt>
              {it.label}
              {it.note && <small>{it.note}</small>}
            </dt>
            <dd>
              <FieldEditor
                spec={it}
                locked={!!existing && it.fixed}
                value={thing[it.field]}
                onChange={(value) => setThing((old) => ({ ...old, [it.field]: value }))}
              />
            </dd>
          </div>
        ))}
      </dl>
      {edit.isError && <ProblemNote problem={edit.error} />}
    </Modal>
  );
}
