import { useState } from "react";
import { Button, Input, Popconfirm, Space, Switch } from "antd";
import { useNavigate, useParams } from "react-router";
import { useAccount } from "@/entities/account/queries";
import { Combobox } from "@/shared/ui/Combobox";
import { DaysWord } from "@/shared/ui/DaysWord";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Loading } from "@/shared/ui/Loading";
import { NoAccess } from "@/shared/ui/NoAccess";
import { PageHead } from "@/shared/ui/PageHead";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { AccountsWord, AddStage, RiskWord, StagesWords } from "../components/words";
import { EVENTS, eventInWords, newRule, type Event } from "../model";
import {
  useEndRule,
  useEventRules,
  useKeepRule,
  useRounds,
  type EventRule,
  type KeptRule,
} from "../queries";

/** Makes or changes a rule that makes small reviews when something happens. */
export function EventRulePage() {
  const number = useParams()["rule"] ?? "new";
  const rounds = useRounds();
  const rules = useEventRules();
  if (rounds.isPending || rules.isPending) return <Loading what="the rules" />;
  if (rounds.isError) return <ProblemAlert problem={rounds.error} />;
  if (rules.isError) {
    return <ProblemAlert problem={rules.error} onRetry={() => void rules.refetch()} />;
  }
  const kept = rules.data.rules.find((it) => String(it.number) === number);
  if (rounds.data.accounts.length === 0 || (number !== "new" && kept === undefined)) {
    return (
      <NoAccess what={number === "new" ? "new rules" : "this rule"}>
        Whoever may run reviews in an account makes its rules. One that has ended is not listed.
      </NoAccess>
    );
  }
  return <Rule key={number} kept={kept} accounts={rounds.data.accounts} />;
}

function Rule({ kept, accounts }: { kept: KeptRule | undefined; accounts: string[] }) {
  const navigate = useNavigate();
  const [account] = useAccount();
  const home = account && accounts.includes(account.key) ? account.key : accounts[0];
  const [rule, setRule] = useState<EventRule>(() => kept?.rule ?? newRule(home));
  const back = () => void navigate("/reviews");
  const keep = useKeepRule(kept?.number, back);
  const end = useEndRule(back);
  const change = (some: Partial<EventRule>) => setRule({ ...rule, ...some });
  const title = kept ? kept.rule.title : "New rule";
  return (
    <>
      <PageHead
        path={[{ name: "Reviews", to: "/reviews" }, { name: title }]}
        title={title}
        facts={kept ? [kept.heldUp && `it waits: ${kept.heldUp}`, `run by ${kept.ownerName}`] : []}
        actions={
          kept && (
            <Popconfirm
              placement="bottomLeft"
              title="End this rule?"
              description="Reviews that it made go on."
              okText="End rule"
              cancelText="Back"
              onConfirm={() => end.mutate(kept.number)}
            >
              <Button loading={end.isPending}>End rule</Button>
            </Popconfirm>
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
      <RuleSentence rule={rule} accounts={accounts} onChange={change} />
      <Space>
        <Switch
          aria-label="Pass conflicts on"
          checked={rule.passOn}
          onChange={(passOn) => change({ passOn })}
        />
        Pass on what reviewers granted themselves, or review of each other
      </Space>
      <p className="note" style={{ margin: "8px 0 16px" }}>
        It looks once a minute at what changed, and makes one small review of it.{" "}
        {rule.event === "ending" && "Keeping a guest membership does not prolong it."}
      </p>
      <Space>
        <Button
          type="primary"
          disabled={rule.title.trim() === ""}
          loading={keep.isPending}
          onClick={() => keep.mutate(rule)}
        >
          {kept ? "Save rule" : "Make rule"}
        </Button>
        <Button onClick={back}>Cancel</Button>
      </Space>
      {keep.isError && <ProblemAlert problem={keep.error} />}
      {end.isError && <ProblemAlert problem={end.error} />}
    </>
  );
}

interface SentenceProps {
  rule: EventRule;
  accounts: string[];
  onChange: (changes: Partial<EventRule>) => void;
}

function RuleSentence({ rule, accounts, onChange }: SentenceProps) {
  return (
    <Sentence>
      When{" "}
      <InlinePicker
        label="When"
        value={eventInWords(rule.event, rule.within)}
        picker={(close) => (
          <Combobox
            label="When"
            value={rule.event}
            options={Object.entries(EVENTS).map(([value, label]) => ({ value, label }))}
            onChoose={(event) => {
              onChange({ event: event as Event });
              close();
            }}
          />
        )}
      />{" "}
      {rule.event === "ending" && (
        <>
          (
          <DaysWord
            label="Days before"
            days={rule.within}
            onChoose={(within) => onChange({ within })}
          />{" "}
          before){" "}
        </>
      )}
      in{" "}
      <AccountsWord
        chosen={rule.accounts}
        accounts={accounts}
        onChoose={(chosen) => onChange({ accounts: chosen })}
      />
      , review <RiskWord risk={rule.risk} onChoose={(risk) => onChange({ risk })} />, decided by{" "}
      <StagesWords stages={rule.stages} onChange={(stages) => onChange({ stages })} />, within{" "}
      <Keep>
        <DaysWord label="Due" days={rule.days} onChoose={(days) => onChange({ days })} />.
      </Keep>{" "}
      <AddStage stages={rule.stages} onChange={(stages) => onChange({ stages })} />
    </Sentence>
  );
}
