import { Button } from "antd";
import { useEdit } from "@/entities/draft/queries";
import { useMayMake } from "@/entities/form/useMayMake";
import { thingFrom } from "@/shared/lib/thing";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useProposals, type Proposal } from "../queries";
import styles from "./Proposals.module.css";

/** Statements that are true now and could become expectations. */
export function Proposals({ account }: { account: string }) {
  const proposals = useProposals(account);
  if (proposals.isError) return <ProblemAlert problem={proposals.error} />;
  if (!proposals.data || proposals.data.length === 0) return null;
  return (
    <>
      <h2 className="part">True today: keep these as expectations?</h2>
      <ul className="plain-list">
        {proposals.data.map((it) => (
          <Row key={it.said} proposal={it} />
        ))}
      </ul>
    </>
  );
}

function Row({ proposal }: { proposal: Proposal }) {
  const edit = useEdit();
  const may = useMayMake("expectations");
  return (
    <li className={styles["row"]}>
      <span>{proposal.said}</span>
      {may && (
        <Button
          size="small"
          loading={edit.isPending}
          aria-label={`Add expectation: ${proposal.said}`}
          onClick={() => edit.mutate([{ kind: "expectations", after: thingFrom(proposal.thing) }])}
        >
          Add expectation
        </Button>
      )}
      {edit.isError && <ProblemAlert problem={edit.error} />}
    </li>
  );
}
