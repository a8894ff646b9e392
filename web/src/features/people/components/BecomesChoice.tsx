import { Select, Space } from "antd";
import { PersonField } from "@/entities/subject/PersonField";
import type { Schemas } from "@/shared/api/client";
import { BECOMES, choicesOf } from "../lifecycle";
import type { TieView } from "../lifecycleQueries";

interface Props {
  tie: TieView;
  grace: boolean;
  fate: Schemas["FateOrder"];
  /** Who leaves or moves: nobody hands over to themselves. */
  not: string;
  onChange: (fate: Schemas["FateOrder"]) => void;
}

/** Chooses what becomes of a tie, and who takes it over. */
export function BecomesChoice({ tie, grace, fate, not, onChange }: Props) {
  return (
    <Space wrap size={4}>
      <Select
        size="small"
        aria-label={`What happens to: ${tie.text}`}
        value={fate.becomes}
        popupMatchSelectWidth={false}
        onChange={(becomes) => onChange({ becomes })}
        options={choicesOf(tie, grace).map((it) => ({ value: it, label: BECOMES[it] }))}
      />
      {fate.becomes === "hand" && (
        <PersonField
          label={`Who takes over: ${tie.text}`}
          look="button"
          value={fate.to ?? "choose a person"}
          {...(fate.to !== undefined && { current: fate.to })}
          not={not}
          onChoose={(to) => onChange({ becomes: "hand", to })}
        />
      )}
    </Space>
  );
}
