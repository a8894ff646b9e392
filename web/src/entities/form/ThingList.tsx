import { useState } from "react";
import { Button } from "antd";
import { useAccountNames } from "@/entities/account/queries";
import { DraftMark } from "@/entities/draft/DraftMark";
import { useEdit } from "@/entities/draft/queries";
import { useThings, type ThingView } from "@/entities/thing/queries";
import { thingFrom, type Thing } from "@/shared/lib/thing";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { specOf } from "./model";
import { LazyThingForm } from "./LazyThingForm";
import styles from "./ThingList.module.css";
import { useMayMake } from "./useMayMake";

interface Props {
  kind: string;
  text?: string;
  /** What a new thing begins with. */
  given?: Thing;
  /** Which of them to show. */
  which?: (thing: ThingView) => boolean;
  /** Shown where there is none. */
  none?: string;
}

/** Things of one kind as sentences; each can be edited or removed in the draft. */
export function ThingList({ kind, text = "", given, which, none }: Props) {
  const spec = specOf(kind);
  const may = useMayMake(kind);
  const things = useThings(kind, { text, limit: 1000 });
  const [form, setForm] = useState<ThingView | "new">();
  if (things.isPending) return <Loading what={spec.many.toLowerCase()} />;
  if (things.isError) {
    return <ProblemAlert problem={things.error} onRetry={() => void things.refetch()} />;
  }
  const shown = which ? things.data.things.filter(which) : things.data.things;
  return (
    <section aria-label={spec.many}>
      <div className="acts">
        {may && (
          <Button size="small" onClick={() => setForm("new")}>
            New {spec.one}
          </Button>
        )}
        <span className="quiet">
          {spec.about}{" "}
          {spec.term && (
            <>
              See <Term word={spec.term} />.
            </>
          )}
        </span>
      </div>
      {shown.length === 0 ? (
        <p className="note">
          {none ??
            (text
              ? "No matches. Change the name you filter by."
              : `No ${spec.many.toLowerCase()} that you can see. Create one to begin.`)}
        </p>
      ) : (
        <ul className="plain-list">
          {shown.map((it, at) => (
            <Row key={`${it.key ?? ""} ${at}`} kind={kind} thing={it} onEdit={() => setForm(it)} />
          ))}
        </ul>
      )}
      {form && (
        <LazyThingForm
          key={form === "new" ? "" : (form.key ?? form.said)}
          kind={kind}
          {...(form === "new" ? given && { given } : { existing: form })}
          onClose={() => setForm(undefined)}
        />
      )}
    </section>
  );
}

function Row({ kind, thing, onEdit }: { kind: string; thing: ThingView; onEdit: () => void }) {
  const edit = useEdit();
  const accountName = useAccountNames();
  const named = thing.said !== thing.name && thing.key && thing.name !== thing.key;
  return (
    <li className={`${styles["row"] ?? ""} ${thing.mark ?? ""}`}>
      <div>
        {named && <strong>{thing.name} </strong>}
        {thing.said}
        {thing.account && <small> {accountName(thing.account)}</small>}
        <DraftMark mark={thing.mark} />
        {edit.isError && <ProblemAlert problem={edit.error} />}
      </div>
      {!thing.supplied && !thing.cannot && thing.mark !== "removes" && (
        <div className={styles["actions"]}>
          <LinkButton aria-label={`Edit ${thing.said}`} onClick={onEdit}>
            Edit
          </LinkButton>
          <LinkButton
            aria-label={`Remove ${thing.said}`}
            onClick={() =>
              edit.mutate([
                thing.key
                  ? { kind, key: thing.key, remove: true }
                  : { kind, before: thingFrom(thing.thing), remove: true },
              ])
            }
          >
            Remove
          </LinkButton>
        </div>
      )}
    </li>
  );
}
