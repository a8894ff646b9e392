import { useState } from "react";
import { Button, Radio } from "antd";
import { useRebase, type DraftView } from "@/entities/draft/queries";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./Clashes.module.css";

/** Changes that somebody else made to the same fields: both versions, and a choice for each. */
export function Clashes({ draft }: { draft: DraftView }) {
  const [chosen, setChosen] = useState<Record<string, boolean>>({});
  const rebase = useRebase(draft.id);
  const idOf = (it: DraftView["clashes"][number]) => `${it.kind} ${it.key ?? it.name}`;
  return (
    <section aria-label="Conflicting changes">
      <h2 className="part">Somebody else changed this too</h2>
      <p className="note">Nothing is overwritten. Choose which version to keep.</p>
      {draft.clashes.map((clash) => (
        <fieldset key={idOf(clash)} className={styles["clash"]}>
          <legend>
            {clash.name}
            {clash.fields.length > 0 && ` · ${clash.fields.join(", ")}`}
          </legend>
          <Radio.Group
            vertical
            value={chosen[idOf(clash)]}
            onChange={(event) =>
              setChosen({ ...chosen, [idOf(clash)]: event.target.value === true })
            }
            options={[
              { value: true, label: `Keep mine: ${clash.mine.join("; ")}` },
              { value: false, label: `Keep the current one: ${clash.theirs.join("; ")}` },
            ]}
          />
        </fieldset>
      ))}
      {rebase.isError && <ProblemAlert problem={rebase.error} />}
      <Button
        type="primary"
        loading={rebase.isPending}
        disabled={draft.clashes.some((it) => chosen[idOf(it)] === undefined)}
        onClick={() =>
          rebase.mutate(
            draft.clashes.map((it) => ({
              which: { kind: it.kind, ...(it.key && { key: it.key }) },
              mine: chosen[idOf(it)] === true,
            })),
          )
        }
      >
        Keep the chosen versions
      </Button>
    </section>
  );
}
