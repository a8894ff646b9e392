import { lazy, Suspense, useEffect, useState } from "react";
import { Button, Popconfirm, Upload } from "antd";
import { useQueryClient } from "@tanstack/react-query";
import { JobProgress } from "@/entities/job/JobProgress";
import { isOver, useJob } from "@/entities/job/queries";
import { dateOf } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { useAddress } from "@/shared/lib/useAddress";
import { useCompare, useDiscrepancies, useRemoveSystem, type System } from "../systems";
import { Comparisons } from "./Comparisons";
import { Discrepancies } from "./Discrepancies";
import { SystemTerms } from "./SystemTerms";
import styles from "./Systems.module.css";

const SystemForm = lazy(() => import("./SystemForm"));

/** One system: tables come in, differences are settled, terms are kept. */
export function SystemPart({ system, accounts }: { system: System; accounts: string[] }) {
  const [params, set] = useAddress();
  const filter = {
    kind: params.get("kind") ?? undefined,
    state: params.get("state") ?? undefined,
    text: params.get("text") ?? undefined,
  };
  const found = useDiscrepancies(system.key, filter);
  const remove = useRemoveSystem();
  const [editing, setEditing] = useState(false);
  const [terms, setTerms] = useState(system.terms === undefined);
  const compared = found.data !== undefined && found.data.comparisons.length > 0;
  return (
    <>
      {system.mine && (
        <div className={styles["bar"]}>
          <Comparing system={system} again={compared} urgent={found.data?.outdated ?? false} />
          <LinkButton aria-expanded={terms} onClick={() => setTerms(!terms)}>
            {terms ? "Hide terms" : "Terms"}
          </LinkButton>
          <LinkButton aria-label={`Edit ${system.name}`} onClick={() => setEditing(true)}>
            Edit
          </LinkButton>
          <Popconfirm
            title={`Remove “${system.name}”?`}
            description="Its terms, comparisons and what was accepted go with it."
            okText="Remove"
            cancelText="Keep it"
            onConfirm={() =>
              remove.mutate(system.key, { onSuccess: () => set({ system: undefined }) })
            }
          >
            <LinkButton aria-label={`Remove ${system.name}`}>Remove</LinkButton>
          </Popconfirm>
        </div>
      )}
      {editing && (
        <Suspense>
          <SystemForm
            system={system}
            accounts={accounts}
            taken={[]}
            onClose={() => setEditing(false)}
          />
        </Suspense>
      )}
      {!system.mine && system.comparedAt && (
        <p className="note">Compared on {dateOf(system.comparedAt)}.</p>
      )}
      {remove.isError && <ProblemAlert problem={remove.error} />}
      {terms && system.mine && <SystemTerms system={system} />}
      {found.isPending && <Loading what="the differences" />}
      {found.isError && <ProblemAlert problem={found.error} onRetry={() => void found.refetch()} />}
      {found.data && compared && (
        <>
          <Discrepancies system={system} list={found.data} filter={filter} />
          <Comparisons all={found.data.comparisons} />
        </>
      )}
      {found.data && !compared && (
        <p>
          {system.terms === undefined
            ? "First say what its terms mean, and put that in force after a trial."
            : "Nothing came in yet. Bring in a table of what it holds."}
        </p>
      )}
    </>
  );
}

interface ComparingProps {
  system: System;
  /** Whether a table came in before. */
  again: boolean;
  /** Whether the model or the terms changed since. */
  urgent: boolean;
}

/** Brings a table in, or compares the newest again. */
function Comparing({ system, again, urgent }: ComparingProps) {
  const queries = useQueryClient();
  const compare = useCompare(system.key);
  const job = useJob(compare.data?.id).data ?? compare.data;
  const running = compare.isPending || (job !== undefined && !isOver(job));
  const done = job?.state === "done" ? job.id : undefined;
  useEffect(() => {
    if (done) void queries.invalidateQueries({ queryKey: ["systems"] });
  }, [done, queries]);
  const disabled = running || system.terms === undefined;
  return (
    <>
      <Upload
        accept=".csv"
        showUploadList={false}
        disabled={disabled}
        beforeUpload={(file) => {
          compare.mutate(file);
          return false; // it is sent by the call itself
        }}
      >
        <Button {...(!urgent && { type: "primary" as const })} disabled={disabled}>
          Bring in a table
        </Button>
      </Upload>
      {again && (
        <Button
          {...(urgent && { type: "primary" as const })}
          disabled={disabled}
          onClick={() => compare.mutate(undefined)}
        >
          Compare again
        </Button>
      )}
      {urgent && <span className="note">The model or the terms changed since.</span>}
      {!urgent && system.comparedAt && (
        <span className="note">Compared on {dateOf(system.comparedAt)}.</span>
      )}
      {job && job.state !== "done" && <JobProgress job={job} label={job.title} />}
      {compare.isError && <ProblemAlert problem={compare.error} />}
    </>
  );
}
