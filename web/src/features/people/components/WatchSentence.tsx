import { useAccounts } from "@/entities/account/queries";
import { NamePicker } from "@/entities/thing/NamePicker";
import { useThingName } from "@/entities/thing/ThingName";
import { ChoiceWord } from "@/shared/ui/ChoiceWord";
import { DaysWord } from "@/shared/ui/DaysWord";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { WATCHABLE, watchedBy, type WatchOrder } from "../watch";

/** Ten years. */
const MOST_DAYS = 3_660;

/** Days between a warning and what it warns of, where one is added. */
const TIME_LEFT = 14;

interface Props {
  rule: WatchOrder;
  onChange: (changes: Partial<WatchOrder>) => void;
  onGroup: (group: string | undefined) => void;
  onWarn: (days: number | undefined) => void;
}

/** A rule as one sentence, whose words are chosen. */
export function WatchSentence({ rule, onChange, onGroup, onWarn }: Props) {
  const accounts = (useAccounts().data?.accounts ?? []).filter((it) =>
    it.may.includes("mandala.people.manage"),
  );
  const group = useThingName("groups", rule.group ?? "");
  const { unseen, becomes } = watchedBy(rule);
  return (
    <Sentence>
      In{" "}
      <ChoiceWord
        label="Account"
        value={rule.account}
        options={accounts.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
        onChoose={(account) => onChange({ account })}
      />
      ,{" "}
      <ChoiceWord
        label="Who"
        value={rule.what}
        options={WATCHABLE}
        onChoose={(what) => onChange({ what })}
      />{" "}
      <InlinePicker
        label="Group"
        value={rule.group ? `in ${group}` : "in any group or none"}
        picker={(close) => (
          <NamePicker
            label="Group"
            kinds={["groups"]}
            value={rule.group}
            fixed={[{ value: "", label: "in any group or none" }]}
            onChoose={(it) => {
              onGroup(it.key || undefined);
              close();
            }}
          />
        )}
      />{" "}
      {unseen} for{" "}
      <DaysWord
        label="After"
        days={rule.after}
        max={MOST_DAYS}
        onChoose={(after) => onChange({ after })}
      />{" "}
      {becomes}
      {rule.what !== "services" && (
        <>
          ,{" "}
          {rule.warnAfter ? (
            <Keep>
              warned by mail after{" "}
              <DaysWord label="Warning" days={rule.warnAfter} max={MOST_DAYS} onChoose={onWarn} />
            </Keep>
          ) : (
            "without a warning"
          )}{" "}
          <LinkButton
            onClick={() => onWarn(rule.warnAfter ? undefined : Math.max(1, rule.after - TIME_LEFT))}
          >
            {rule.warnAfter ? "do not warn" : "warn them first"}
          </LinkButton>
        </>
      )}
    </Sentence>
  );
}
