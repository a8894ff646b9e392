import { Button } from "antd";
import { ProblemNote } from "../../../components/ProblemNote";
import type { Thing } from "../../../lib/thing";
import { useEdit } from "../../draft/queries";
import { useProposals } from "../queries";

/** Expectations that hold now and are not stated yet: keep it so? */
export function Proposed({ account }: { account: string }) {
  const proposals = useProposals(account);
  const edit = useEdit();
  if (!proposals.data || proposals.data.length === 0) return null;
  return (
    <>
      <h2 className="part">True today: keep it so?</h2>
      {edit.isError && <ProblemNote problem={edit.error} />}
      <ul className="said">
        {proposals.data.map((it) => (
          <li key={it.said}>
            <span>{it.said}</span>
            <Button
              size="small"
              onClick={() =>
                edit.mutate([{ kind: "expectations", after: it.thing as unknown as Thing }])
              }
            >
              Keep it so
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
