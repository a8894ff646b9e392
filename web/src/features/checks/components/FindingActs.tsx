import { lazy, Suspense, useState } from "react";
import { Button } from "antd";
import { PersonField } from "@/entities/subject/PersonField";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useAcceptFindings, useOwnFindings, useReopenFindings, type Finding } from "../queries";
import styles from "./FindingActs.module.css";

const AcceptDialog = lazy(() => import("./AcceptDialog"));

interface Props {
  chosen: Finding[];
  onClear: () => void;
}

/** Decides about the selected findings, as far as the viewer may. */
export function FindingActs({ chosen, onClear }: Props) {
  const accept = useAcceptFindings();
  const own = useOwnFindings();
  const reopen = useReopenFindings();
  const [accepting, setAccepting] = useState(false);
  const mine = chosen.filter((it) => it.mine && it.state !== "resolved").map((it) => it.id);
  const accepted = chosen.filter((it) => it.mine && it.state === "accepted").map((it) => it.id);
  const error = own.error ?? reopen.error;
  return (
    <section className={styles["bar"]} aria-label="Selected findings">
      <strong>{count(chosen.length, "finding", "findings")} selected</strong>
      {mine.length > 0 && (
        <>
          <Button size="small" type="primary" onClick={() => setAccepting(true)}>
            Accept until a date
          </Button>
          <PersonField
            label="Owner of the selected findings"
            look="button"
            value="Choose owner"
            onChoose={(owner) => own.mutate({ ids: mine, owner })}
          />
          <Button size="small" onClick={() => own.mutate({ ids: mine })}>
            Remove owner
          </Button>
        </>
      )}
      {accepted.length > 0 && (
        <Button size="small" onClick={() => reopen.mutate(accepted)}>
          Reopen
        </Button>
      )}
      {mine.length < chosen.length && (
        <span className="note">You can’t decide about {chosen.length - mine.length} of them.</span>
      )}
      <LinkButton onClick={onClear}>Clear selection</LinkButton>
      {error && <ProblemAlert problem={error} />}
      {accepting && (
        <Suspense>
          <AcceptDialog
            many={mine.length}
            pending={accept.isPending}
            problem={accept.error}
            onAccept={(until, reason) =>
              accept.mutate(
                { ids: mine, until, reason },
                {
                  onSuccess: () => {
                    setAccepting(false);
                    onClear();
                  },
                },
              )
            }
            onClose={() => setAccepting(false)}
          />
        </Suspense>
      )}
    </section>
  );
}
