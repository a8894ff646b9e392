import { useState } from "react";
import { Button, Radio } from "antd";
import { ProblemNote } from "../../../components/ProblemNote";
import { useRebase, type DraftView } from "../queries";

/** What somebody else has changed meanwhile in another way: both sides, and a choice for each. */
export function Clashes({ draft }: { draft: DraftView }) {
  const [chosen, setChosen] = useState<Record<string, boolean>>({});
  const rebase = useRebase(draft.id);
  const idOf = (it: DraftView["clashes"][number]) => `${it.kind} ${it.key ?? it.name}`;
  return (
    <section className="clashes" aria-label="Changed by somebody else too">
      <h2>Somebody else has changed this too</h2>
      <p className="note">Nothing is overwritten in silence. Choose whose is to count.</p>
      {draft.clashes.map((clash) => (
        <fieldset key={idOf(clash)} className="clash">
          <legend>
            {clash.name}
            {clash.fields.length > 0 && ` · ${clash.fields.join(", ")}`}
          </legend>
          <Radio.Group
            value={chosen[idOf(clash)]}
            onChange={(event) =>
              setChosen({ ...chosen, [idOf(clash)]: event.target.value === true })
            }
          >
            <Radio value={true}>
              <strong>Mine:</strong> {clash.mine.join("; ")}
            </Radio>
            <Radio value={false}>
              <strong>As it is now:</strong> {clash.theirs.join("; ")}
            </Radio>
          </Radio.Group>
        </fieldset>
      ))}
      {rebase.isError && <ProblemNote problem={rebase.error} />}
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
        Go on with these
      </Button>
    </section>
  );
}
