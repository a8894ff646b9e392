import { lazy, Suspense, useState } from "react";
import { Alert, Button, Descriptions } from "antd";
import { Mandala } from "@/entities/access/Mandala";
import { percent, useExcess, type Excess } from "@/entities/access/excess";
import type { Schemas } from "@/shared/api/client";
import { useAddress } from "@/shared/lib/useAddress";
import { textOf } from "@/shared/lib/thing";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Term } from "@/shared/ui/Term";
import { UnusedRights } from "./UnusedRights";
import { UseWindow } from "./UseWindow";
import styles from "./UseOfAccess.module.css";

const TrimProposals = lazy(() => import("./TrimProposals"));

/** What somebody uses of their access, what they don't, and how to trim it. */
export function UseOfAccess({ page }: { page: Schemas["PersonPage"] }) {
  const [params, set] = useAddress();
  const days = Number(params.get("days")) || undefined;
  const principal = page.person.key ?? "";
  const kind = textOf(page.person.thing, "kind") || "person";
  const home = page.account?.key ?? "";
  const excess = useExcess({ principal, days }, { in: home, doors: home !== "" });
  const [trims, setTrims] = useState(params.get("trim") === "1");
  if (excess.isPending) return <Loading what="what they use" rows={8} />;
  if (excess.isError) {
    return (
      <>
        <ProblemAlert problem={excess.error} onRetry={() => void excess.refetch()} />
        {days && (
          <LinkButton onClick={() => set({ days: undefined })}>Use the usual window</LinkButton>
        )}
      </>
    );
  }
  const answer = excess.data;
  const name = page.person.name;
  const hidden = answer.unused - answer.permissions.reduce((sum, it) => sum + it.places, 0);
  return (
    <>
      <UseWindow
        days={answer.days}
        first={answer.first}
        onChange={(value) => set({ days: `${value}` })}
      />
      {answer.historyShort && (
        <Alert
          type="info"
          showIcon
          title="The model's history is shorter than this window. Access from before it counts as old."
        />
      )}
      <div className={styles["beside"]}>
        <Mandala
          figure={answer.whole}
          shares={{ used: answer.used, kept: answer.kept }}
          size={430}
          centre={name}
          label={`${name}: ${count(answer.rights, "right")}, ${answer.unused} unused`}
        />
        <div>
          <Figures answer={answer} />
          <p className={styles["legend"]}>
            <span className={styles["solid"]} /> used or too new to judge
            <span className={styles["hatched"]} /> not used
            <span className={styles["dotted"]} /> <Term word="not observed">not observed</Term>
          </p>
          {!answer.part && !trims && answer.unused > 0 && (
            <Button type="primary" onClick={() => setTrims(true)}>
              Trim access
            </Button>
          )}
        </div>
      </div>
      {trims && (
        <Suspense fallback={<Loading what="proposals" />}>
          <TrimProposals of={[`${kind}:${principal}`]} name={name} days={days} />
        </Suspense>
      )}
      <h2 className="part">Not used in {answer.days} days</h2>
      <UnusedRights principal={principal} days={days} rows={answer.permissions} />
      {hidden > 0 && (
        <p className="note">You can't see the permissions of {count(hidden, "more right")}.</p>
      )}
    </>
  );
}

function Figures({ answer }: { answer: Excess }) {
  const { rights, needed, young, unobserved, unused, exposure, unusedExposure } = answer;
  const row = (key: string, label: string, many: number) => ({
    key,
    label,
    children: `${many.toLocaleString("en")} · ${percent(many, rights)}`,
  });
  return (
    <Descriptions
      column={1}
      size="small"
      title={count(rights, "right")}
      items={[
        row("needed", young === undefined ? "Used or new" : "Used or required", needed),
        ...(young === undefined ? [] : [row("young", "Too new to judge", young)]),
        row("unobserved", "Not observed", unobserved),
        row("unused", "Not used", unused),
        {
          key: "exposure",
          label: <Term word="exposure">Exposure</Term>,
          children: `${exposure.toLocaleString("en")}, ${percent(unusedExposure, exposure)} of it not used`,
        },
      ]}
    />
  );
}
