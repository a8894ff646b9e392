import { useState } from "react";
import { Button, Input, InputNumber, Popconfirm, Space } from "antd";
import { useNavigate, useParams } from "react-router";
import { useAccount, useAccounts } from "@/entities/account/queries";
import { whenDone } from "@/shared/lib/whenDone";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { WatchDone, WatchToday } from "../components/WatchFindings";
import { WatchSentence } from "../components/WatchSentence";
import {
  newWatchRule,
  useEndWatchRule,
  useKeepWatchRule,
  useLookNow,
  useWatchRules,
  type WatchOrder,
  type WatchRuleView,
  withGroup,
  withWarning,
} from "../watch";

/** Makes or changes a rule that watches; what it would do today is there before it is kept. */
export function WatchRulePage() {
  const number = useParams()["rule"] ?? "new";
  const rules = useWatchRules();
  const accounts = useAccounts();
  const [account] = useAccount();
  if (rules.isPending || accounts.isPending) return <Loading what="the rule" />;
  if (rules.isError) {
    return <ProblemAlert problem={rules.error} onRetry={() => void rules.refetch()} />;
  }
  const kept = rules.data.rules.find((it) => String(it.number) === number);
  const managed = (accounts.data?.accounts ?? []).filter((it) =>
    it.may.includes("mandala.people.manage"),
  );
  const home = managed.find((it) => it.key === account?.key) ?? managed[0];
  if (!home || (number !== "new" && kept === undefined)) {
    return (
      <NoAccess what={number === "new" ? "new rules" : "this rule"}>
        Whoever may manage the people of an account makes its rules. One that has ended is not
        listed.
      </NoAccess>
    );
  }
  return <Rule key={number} kept={kept} account={home.key} />;
}

function Rule({ kept, account }: { kept: WatchRuleView | undefined; account: string }) {
  const navigate = useNavigate();
  const [rule, setRule] = useState<WatchOrder>(() => kept?.rule ?? newWatchRule(account));
  const keep = useKeepWatchRule(kept?.number);
  const end = useEndWatchRule();
  const look = useLookNow();
  const title = kept ? kept.rule.title : "New rule";
  const back = () => void navigate("/watch-rules");
  const change = (some: Partial<WatchOrder>) => setRule((before) => ({ ...before, ...some }));
  return (
    <>
      <PageHead
        path={[
          { name: "People", to: "/people" },
          { name: "Rules", to: "/watch-rules" },
          { name: title },
        ]}
        title={title}
        facts={
          kept
            ? [
                kept.heldUp && `it waits: ${kept.heldUp}`,
                `acts with the rights of ${kept.ownerName}`,
              ]
            : []
        }
        actions={
          kept && (
            <Space>
              <Button loading={look.isPending} onClick={() => look.mutate(kept.number)}>
                Look now
              </Button>
              <Popconfirm
                placement="bottomLeft"
                title="End this rule?"
                description="What it did stays as it is."
                okText="End rule"
                cancelText="Back"
                onConfirm={() => whenDone(end.mutateAsync(kept.number), back)}
              >
                <Button loading={end.isPending}>End rule</Button>
              </Popconfirm>
            </Space>
          )
        }
      />
      <Input
        aria-label="Title"
        value={rule.title}
        maxLength={100}
        style={{ maxWidth: 420, marginBottom: 12 }}
        onChange={(event) => change({ title: event.target.value })}
      />
      <WatchSentence
        rule={rule}
        onChange={change}
        onGroup={(group) => setRule((before) => withGroup(before, group))}
        onWarn={(days) => setRule((before) => withWarning(before, days))}
      />
      {rule.what !== "services" && (
        <div style={{ marginBottom: 12 }}>
          It stops and asks when it would act on more than{" "}
          <InputNumber
            aria-label="Most at once"
            size="small"
            min={1}
            max={100_000}
            value={rule.most}
            onChange={(most) => most !== null && change({ most })}
          />{" "}
          at once. Whoever owns an account is left alone.
        </div>
      )}
      <Space>
        <Button
          type="primary"
          disabled={rule.title.trim() === ""}
          loading={keep.isPending}
          onClick={() =>
            void whenDone(keep.mutateAsync(rule), (made) => {
              void navigate(`/watch-rules/${made.number}`);
            })
          }
        >
          {kept ? "Save rule" : "Make rule"}
        </Button>
        <Button onClick={back}>Cancel</Button>
      </Space>
      {[keep, end, look].map((it, i) => it.isError && <ProblemAlert key={i} problem={it.error} />)}
      {kept && <WatchDone rule={kept} />}
      <WatchToday rule={rule} />
    </>
  );
}
