import { Button } from "antd";
import { Link } from "react-router";
import { useAccountNames } from "@/entities/account/queries";
import { useThingName } from "@/entities/thing/ThingName";
import { count, listed } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { eventInWords, RISK_WORDS, stageInWords } from "../model";
import { useEventRules, type EventRule, type KeptRule } from "../queries";

/** The rules that make small reviews when something happens. */
export function EventRuleList() {
  const rules = useEventRules();
  return (
    <section aria-label="By event">
      <h2 className="part">By event</h2>
      {rules.isError && <ProblemAlert problem={rules.error} onRetry={() => void rules.refetch()} />}
      {rules.data && (
        <DataTable<KeptRule>
          label="Rules"
          rows={rules.data.rules}
          rowKey={(it) => String(it.number)}
          columns={columns}
          empty="No rules yet. A rule makes a small review when somebody moves, a role is widened, a guest's end comes near, or access is given."
        />
      )}
      <p style={{ marginTop: 12 }}>
        <Link to="/reviews/rules/new">
          <Button>New rule</Button>
        </Link>
      </p>
    </section>
  );
}

const columns: Column<KeptRule>[] = [
  {
    key: "title",
    title: "rule",
    render: (it) => (
      <>
        <Link to={`/reviews/rules/${it.number}`}>{it.rule.title}</Link>
        <div className="note">
          <RuleInWords rule={it.rule} />
        </div>
      </>
    ),
  },
  {
    key: "state",
    title: "state",
    width: 160,
    render: (it) => (it.heldUp ? "waits for its owner" : "active"),
  },
  {
    key: "rounds",
    title: "made",
    width: 130,
    render: (it) => (it.rounds === 0 ? "none yet" : count(it.rounds, "review")),
  },
  { key: "owner", title: "run by", width: 150, render: (it) => it.ownerName },
];

/** A rule as one sentence. */
function RuleInWords({ rule }: { rule: EventRule }) {
  const nameOf = useAccountNames();
  const order = rule.stages[0]?.order ?? [];
  const person = order.find((it) => it.startsWith("person:"))?.slice(7) ?? "";
  const name = useThingName("principals", person);
  const where = rule.accounts.length === 0 ? "any account" : listed(rule.accounts.map(nameOf));
  return (
    <>
      When {eventInWords(rule.event, rule.within)} in {where}: {RISK_WORDS[rule.risk]}, decided by{" "}
      {stageInWords(order, () => name)}, within {count(rule.days, "day")}
    </>
  );
}
