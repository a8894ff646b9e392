import { lazy, Suspense, useState } from "react";
import { Button } from "antd";
import { Link } from "react-router";
import { useAdopt } from "@/entities/draft/queries";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import {
  isOfModel,
  useAcceptDiscrepancies,
  useReopenDiscrepancies,
  type Discrepancy,
  type System,
} from "../systems";
import styles from "./Systems.module.css";

const AcceptDialog = lazy(() => import("./AcceptDialog"));

interface Props {
  system: System;
  chosen: Discrepancy[];
  onClear: () => void;
}

/** Decides about what is selected, as far as the viewer may. */
export function DiscrepancyActs({ system, chosen, onClear }: Props) {
  const accept = useAcceptDiscrepancies(system.key);
  const reopen = useReopenDiscrepancies(system.key);
  const adopt = useAdopt(system.key);
  const [accepting, setAccepting] = useState(false);
  const mine = chosen.filter((it) => it.mine && it.state !== "settled");
  const rights = mine.filter(isOfModel).map((it) => it.id);
  const accepted = mine.filter((it) => it.state === "accepted").map((it) => it.id);
  const problem = adopt.error ?? reopen.error;
  return (
    <>
      {chosen.length > 0 && (
        <section
          className={`${styles["bar"]} ${styles["chosen"]}`}
          aria-label="Selected differences"
        >
          <strong>{count(chosen.length, "difference")} selected</strong>
          {rights.length > 0 && (
            <Button
              size="small"
              type="primary"
              loading={adopt.isPending}
              onClick={() => adopt.mutate(rights, { onSuccess: onClear })}
            >
              Change the model in a new draft
            </Button>
          )}
          {mine.length > 0 && (
            <Button size="small" onClick={() => setAccepting(true)}>
              Accept until a date
            </Button>
          )}
          {accepted.length > 0 && (
            <Button size="small" onClick={() => reopen.mutate(accepted)}>
              Reopen
            </Button>
          )}
          {mine.length < chosen.length && (
            <span className="note">
              You can’t decide about {chosen.length - mine.length} of them.
            </span>
          )}
          <LinkButton onClick={onClear}>Clear selection</LinkButton>
        </section>
      )}
      {problem && <ProblemAlert problem={problem} />}
      {adopt.data && (
        <p role="status">
          {count(adopt.data.changes, "change")} {adopt.data.changes === 1 ? "is" : "are"} in a new
          draft; after it the model says what the system holds.{" "}
          <Link to={`/drafts/${adopt.data.draft}`}>Open the draft</Link>
          {adopt.data.left.length > 0 &&
            ` Not settled by it: ${adopt.data.left.slice(0, 3).join("; ")}.`}
        </p>
      )}
      {accepting && (
        <Suspense>
          <AcceptDialog
            many={mine.length}
            one="difference"
            pending={accept.isPending}
            problem={accept.error}
            onAccept={(until, reason) =>
              accept.mutate(
                { ids: mine.map((it) => it.id), until, reason },
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
    </>
  );
}
