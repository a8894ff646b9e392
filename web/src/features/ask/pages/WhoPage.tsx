import type { WhoAsked } from "@/entities/access/model";
import { useWho } from "@/entities/access/queries";
import { useAccount } from "@/entities/account/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { EmptyState } from "@/shared/ui/EmptyState";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { QuestionTabs } from "../components/QuestionTabs";
import { FactorField, WhenField } from "../components/SessionFields";
import { WhatPicker, WherePicker } from "../components/WhoPickers";
import { WhoView } from "../components/WhoView";

const WHAT = { permission: "", accessClass: "", risk: "" };
const WHERE = { on: "", below: "", collection: "" };
const NAMES = ["permission", "accessClass", "risk", "on", "below", "collection", "at"] as const;

function askedIn(params: URLSearchParams, account: string | undefined): WhoAsked {
  const asked: WhoAsked = { secondFactor: params.get("factor") !== "0" };
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  if (!asked.on && !asked.below && !asked.collection && account) asked.below = `account:${account}`;
  return asked;
}

/** Who can do this there: the question and the people, all from the address. */
export function WhoPage() {
  const [params, set] = useAddress();
  const [account] = useAccount();
  const asked = askedIn(params, account?.key);
  const whole = !!(asked.permission ?? asked.accessClass ?? asked.risk);
  const answer = useWho(asked, whole);
  const where =
    answer.data?.where ??
    (asked.below && account ? `${account.name} and everything below it` : "…");

  return (
    <>
      <QuestionTabs />
      <Sentence>
        Who can{" "}
        <InlinePicker
          label="What"
          value={answer.data?.what ?? (whole ? "…" : "do what")}
          picker={(close) => (
            <WhatPicker
              onChoose={(name, value) => {
                set({ ...WHAT, [name]: value });
                close();
              }}
            />
          )}
        />{" "}
        on{" "}
        <InlinePicker
          label="Where"
          value={where}
          picker={(close) => (
            <WherePicker
              onChoose={(name, value) => {
                set({ ...WHERE, [name]: value });
                close();
              }}
            />
          )}
        />{" "}
        <Keep>
          <WhenField at={asked.at ?? ""} onChoose={(at) => set({ at })} />,
        </Keep>{" "}
        signed in{" "}
        <Keep>
          <FactorField
            factor={asked.secondFactor}
            onChoose={(it) => set({ factor: it ? "" : "0" })}
          />
          ?
        </Keep>
      </Sentence>
      {!whole ? (
        <EmptyState>Choose what: a permission, a class or a risk.</EmptyState>
      ) : answer.isError ? (
        <ProblemAlert problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Loading what="the answer" />
      ) : (
        <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
          <WhoView answer={answer.data} asked={asked} />
        </div>
      )}
    </>
  );
}
