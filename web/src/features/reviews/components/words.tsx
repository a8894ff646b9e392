import { Checkbox, Space } from "antd";
import { useAccountNames } from "@/entities/account/queries";
import { listed } from "@/shared/lib/words";
import { ChoiceWord } from "@/shared/ui/ChoiceWord";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { RISK_WORDS, type Risk } from "../model";
import type { RoundOrder } from "../queries";
import { StageField } from "./StageField";

type Stages = RoundOrder["stages"];

/** The least risk, as a word of a sentence. */
export function RiskWord({ risk, onChoose }: { risk: Risk; onChoose: (risk: Risk) => void }) {
  return (
    <ChoiceWord
      label="What"
      value={risk}
      options={Object.entries(RISK_WORDS).map(([value, label]) => ({ value, label }))}
      onChoose={(it) => onChoose(it as Risk)}
    />
  );
}

interface AccountsProps {
  chosen: string[];
  /** Keys of the accounts in which the viewer may run reviews. */
  accounts: string[];
  onChoose: (accounts: string[]) => void;
}

/** Accounts with all below them, as a word of a sentence. */
export function AccountsWord({ chosen, accounts, onChoose }: AccountsProps) {
  const nameOf = useAccountNames();
  return (
    <InlinePicker
      label="Where"
      value={chosen.length === 0 ? "all accounts" : listed(chosen.map(nameOf))}
      picker={() => (
        <Checkbox.Group value={chosen} onChange={onChoose}>
          <Space orientation="vertical">
            {accounts.map((key) => (
              <Checkbox key={key} value={key}>
                {nameOf(key)}
              </Checkbox>
            ))}
            <span className="note">None chosen: all accounts. Each with all below it.</span>
          </Space>
        </Checkbox.Group>
      )}
    />
  );
}

interface StagesProps {
  stages: Stages;
  onChange: (stages: Stages) => void;
}

/** Who decides, stage by stage, as words of a sentence. */
export function StagesWords({ stages, onChange }: StagesProps) {
  return stages.map((stage, i) => (
    <span key={i}>
      {i > 0 && ", then by "}
      <StageField
        label={i === 0 ? "Decided by" : `Then by (${i + 1})`}
        stage={stage.order}
        onChange={(chosen) => onChange(stages.map((it, at) => (at === i ? { order: chosen } : it)))}
        onRemove={i > 0 ? () => onChange(stages.filter((_, at) => at !== i)) : undefined}
      />
    </span>
  ));
}

/** Adds a stage, up to three. */
export function AddStage({ stages, onChange }: StagesProps) {
  return (
    stages.length < 3 && (
      <LinkButton onClick={() => onChange([...stages, { order: ["account-owner"] }])}>
        Add a step
      </LinkButton>
    )
  );
}
