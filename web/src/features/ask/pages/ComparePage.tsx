import { lazy, Suspense } from "react";
import { personIn, type DifferAsked } from "@/entities/access/model";
import { useDifference } from "@/entities/access/queries";
import { useAccounts } from "@/entities/account/queries";
import { useWho } from "@/entities/session";
import { useAddress } from "@/shared/lib/useAddress";
import { Combobox } from "@/shared/ui/Combobox";
import { EmptyState } from "@/shared/ui/EmptyState";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Loading } from "@/shared/ui/Loading";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { QuestionTabs } from "../components/QuestionTabs";
import { SideField } from "../components/SideField";

const DifferenceView = lazy(() =>
  import("../components/DifferenceView").then((it) => ({ default: it.DifferenceView })),
);

const NAMES = [
  "one",
  "other",
  "in",
  "at",
  "otherAt",
  "revision",
  "otherRevision",
  "draft",
  "otherDraft",
] as const;

const EVERYWHERE = "everywhere";

/** How two accesses differ: two people, roles or patterns, at any two dates, revisions or drafts. */
export function ComparePage() {
  const who = useWho();
  const [params, set] = useAddress();
  const accounts = useAccounts();
  const asked: DifferAsked = { one: who.key, other: "" };
  for (const name of NAMES) {
    const value = params.get(name);
    if (value) asked[name] = value;
  }
  const answer = useDifference(asked, asked.other !== "");
  const place = accounts.data?.accounts.find((it) => it.key === asked.in)?.name;
  return (
    <>
      <QuestionTabs />
      <Sentence>
        How does{" "}
        <SideField
          label="One"
          rival={personIn(asked.other)}
          side={{
            name: answer.data?.one.name ?? asked.one,
            at: asked.at,
            revision: asked.revision,
            draft: asked.draft,
          }}
          onWho={(one) => set({ one })}
          onWhen={({ at = "", revision = "", draft = "" }) => set({ at, revision, draft })}
        />{" "}
        differ from{" "}
        <SideField
          label="The other"
          rival={personIn(asked.one)}
          side={{
            name: answer.data?.other.name ?? (asked.other || "someone"),
            at: asked.otherAt,
            revision: asked.otherRevision,
            draft: asked.otherDraft,
          }}
          onWho={(other) => set({ other })}
          onWhen={({ at = "", revision = "", draft = "" }) =>
            set({ otherAt: at, otherRevision: revision, otherDraft: draft })
          }
        />{" "}
        in{" "}
        <Keep>
          <InlinePicker
            label="Where"
            value={place ?? "every account"}
            picker={(close) => (
              <Combobox
                label="Where"
                value={asked.in ?? EVERYWHERE}
                options={[
                  { value: EVERYWHERE, label: "every account" },
                  ...(accounts.data?.accounts ?? []).map((it) => ({
                    value: it.key,
                    label: it.name,
                    depth: it.depth,
                  })),
                ]}
                onChoose={(key) => {
                  set({ in: key === EVERYWHERE ? "" : key });
                  close();
                }}
              />
            )}
          />
          ?
        </Keep>
      </Sentence>
      {asked.other === "" ? (
        <EmptyState>
          Choose whom to compare with. You can also compare a person with themselves at another
          time.
        </EmptyState>
      ) : answer.isError ? (
        <ProblemAlert problem={answer.error} onRetry={() => void answer.refetch()} />
      ) : !answer.data ? (
        <Loading what="the difference" />
      ) : (
        <div className={answer.isPlaceholderData ? "stale" : ""} aria-live="polite">
          <Suspense fallback={<Loading what="the difference" />}>
            <DifferenceView answer={answer.data} asked={asked} />
          </Suspense>
        </div>
      )}
    </>
  );
}
