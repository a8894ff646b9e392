import { lazy, Suspense, useState } from "react";
import { Button, Input, Select, Space } from "antd";
import { useNavigate } from "react-router";
import { useAccount } from "@/entities/account/queries";
import { isOver, useJob } from "@/entities/job/queries";
import { NoAccess } from "@/shared/ui/NoAccess";
import { Loading } from "@/shared/ui/Loading";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { EffectSentence } from "../components/EffectSentence";
import { RoundPreviewPart } from "../components/RoundPreviewPart";
import { RoundSentence } from "../components/RoundSentence";
import { RoundOptions } from "../components/RoundOptions";
import { beginsNow, orderOf, TEMPLATES, type Template } from "../model";
import {
  useMadeRound,
  useMakeRound,
  usePlanRound,
  usePreview,
  useRounds,
  type RoundOrder,
} from "../queries";

const JobProgress = lazy(async () => ({
  default: (await import("@/entities/job/JobProgress")).JobProgress,
}));

const FIRST = TEMPLATES[0] as Template;

/** Makes a review round from a sentence, with a count of what it would ask and whom. */
export function NewRoundPage() {
  const navigate = useNavigate();
  const rounds = useRounds();
  const [account] = useAccount();
  const [now] = useState(() => new Date());
  const [template, setTemplate] = useState(FIRST);
  const [changes, setChanges] = useState<Partial<RoundOrder>>({});
  const accounts = rounds.data?.accounts ?? [];
  const home = account && accounts.includes(account.key) ? account.key : accounts[0];
  const order = { ...orderOf(template, home, now), ...changes };
  const preview = usePreview(order, accounts.length > 0);
  const make = useMakeRound();
  const plan = usePlanRound();
  const job = useJob(make.data?.id);
  const begins = beginsNow(order, now);
  const begun = job.data;
  const made = useMadeRound(begun?.state === "done" ? begun.id : undefined);
  if (rounds.isPending) return <Loading what="the reviews" />;
  if (rounds.isError) return <ProblemAlert problem={rounds.error} />;
  if (accounts.length === 0) {
    return (
      <NoAccess what="new reviews">
        Whoever may run reviews in an account asks managers and owners what stays there.
      </NoAccess>
    );
  }
  return (
    <>
      <PageHead
        path={[{ name: "Reviews", to: "/reviews" }, { name: "New review" }]}
        title="New review"
        actions={
          <Select
            aria-label="Template"
            value={template.key}
            popupMatchSelectWidth={false}
            onChange={(key) => {
              setTemplate(TEMPLATES.find((it) => it.key === key) ?? FIRST);
              setChanges({});
            }}
            options={TEMPLATES.map((it) => ({ value: it.key, label: `Template: ${it.name}` }))}
          />
        }
      />
      <Input
        aria-label="Title"
        value={order.title}
        maxLength={120}
        style={{ maxWidth: 420, marginBottom: 12 }}
        onChange={(event) => setChanges({ ...changes, title: event.target.value })}
      />
      <RoundSentence
        order={order}
        accounts={accounts}
        onChange={(some) => setChanges({ ...changes, ...some })}
      />
      <EffectSentence order={order} onChange={(some) => setChanges({ ...changes, ...some })} />
      <RoundOptions order={order} onChange={(some) => setChanges({ ...changes, ...some })} />
      <RoundPreviewPart preview={preview} />
      <Space wrap style={{ marginTop: 16 }}>
        <Button
          type="primary"
          disabled={(preview.data?.items ?? 0) === 0 || order.title.trim() === ""}
          loading={make.isPending || plan.isPending || (begun !== undefined && !isOver(begun))}
          onClick={() =>
            begins
              ? make.mutate(order)
              : plan.mutate(order, { onSuccess: () => void navigate("/reviews") })
          }
        >
          {begins ? "Begin review" : "Plan review"}
        </Button>
        {begun && (
          <Suspense fallback={null}>
            <JobProgress job={begun} label="Make the review" />
          </Suspense>
        )}
        {made.data !== undefined && (
          <Button onClick={() => void navigate(`/reviews/${made.data ?? ""}/round`)}>
            Open the review
          </Button>
        )}
      </Space>
      {make.isError && <ProblemAlert problem={make.error} />}
      {plan.isError && <ProblemAlert problem={plan.error} />}
    </>
  );
}
