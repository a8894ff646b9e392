import { useState } from "react";
import { Button } from "antd";
import { DraftMark } from "../../../components/DraftMark";
import { ProblemNote } from "../../../components/ProblemNote";
import { Waiting } from "../../../components/Waiting";
import type { Thing } from "../../../lib/thing";
import { useEdit } from "../../draft/queries";
import { thingOfView, useThings, type ThingView } from "../../things/queries";
import { specOf } from "../model";
import { ThingForm } from "./ThingForm";

interface Props {
  kind: string;
  text?: string;
  /** What something new begins with. */
  given?: Thing;
  /** Which of them to show. */
  which?: (thing: ThingView) => boolean;
  /** Said where there is none. */
  none?: string;
}

/** Things of one kind as sentences; made, changed and removed into the draft. */
export function ThingList({ kind, text = "", given, which, none }: Props) {
  const spec = specOf(kind);
  const things = useThings(kind, { text, limit: 1000 });
  const edit = useEdit();
  const [form, setForm] = useState<ThingView | "new">();
  if (things.isPending) return <Waiting what={spec.many.toLowerCase()} />;
  if (things.isError) {
    return <ProblemNote problem={things.error} onRetry={() => void things.refetch()} />;
  }
  const shown = which ? things.data.things.filter(which) : things.data.things;
  return (
    <section aria-label={spec.many}>
      <p className="acts">
        <Button size="small" onClick={() => setForm("new")}>
          New {spec.one}
        </Button>
        <span className="note">{spec.about}</span>
      </p>
      {edit.isError && <ProblemNote problem={edit.error} />}
      {shown.length === 0 ? (
        <p className="note">{none ?? "There is none that you may read."}</p>
      ) : (
        <ul className="said">
          {shown.map((it, at) => (
            <li key={`${it.key ?? ""} ${at}`} className={it.mark}>
              <span>
                {it.said !== it.name && it.key && it.name !== it.key && <strong>{it.name}</strong>}{" "}
                {it.said}
                {it.account && <small>{it.account}</small>}
                <DraftMark mark={it.mark} />
              </span>
              {!it.supplied && it.mark !== "removes" && (
                <span className="acts">
                  <button type="button" className="link" onClick={() => setForm(it)}>
                    change
                  </button>
                  <button
                    type="button"
                    className="link"
                    aria-label={`Remove ${it.said}`}
                    onClick={() =>
                      edit.mutate([
                        it.key
                          ? { kind, key: it.key, remove: true }
                          : { kind, before: thingOfView(it), remove: true },
                      ])
                    }
                  >
                    remove
                  </button>
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      {form && (
        <ThingForm
          key={form === "new" ? "" : (form.key ?? form.said)}
          kind={kind}
          {...(form === "new" ? given && { given } : { existing: form })}
          onClose={() => setForm(undefined)}
        />
      )}
    </section>
  );
}
