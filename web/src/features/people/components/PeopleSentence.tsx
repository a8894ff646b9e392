import { Checkbox } from "antd";
import { useAccount, useAccounts } from "@/entities/account/queries";
import { useAddress } from "@/shared/lib/useAddress";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { SentenceInput } from "@/shared/ui/SentenceInput";
import { GROUPINGS } from "../filters";
import { STATES, statesInWords, type Filter } from "../model";
import pageStyles from "../pages/PeoplePage.module.css";
import { MoreFilters } from "./MoreFilters";

const ANY = "any job";
const UNGROUPED = "nothing";

interface Props {
  filter: Filter;
  /** The jobs that occur. */
  titles: string[];
  /** The part of a name as it is typed. */
  typed: string;
  onType: (text: string) => void;
}

/** Which people the list shows, as a sentence that the page's address keeps. */
export function PeopleSentence({ filter, titles, typed, onType }: Props) {
  const accounts = useAccounts();
  const [, work] = useAccount();
  const [, set] = useAddress();
  const all = accounts.data?.accounts ?? [];
  return (
    <Sentence>
      People in{" "}
      <InlinePicker
        label="Account"
        value={all.find((it) => it.key === filter.account)?.name ?? "every account"}
        picker={(close) => (
          <Combobox
            label="Account"
            value={filter.account}
            options={all.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
            onChoose={(key) => {
              work(key);
              set({ in: key });
              close();
            }}
          />
        )}
      />{" "}
      who are{" "}
      <InlinePicker
        label="State"
        value={statesInWords(filter.states)}
        picker={() => (
          <Checkbox.Group
            className={pageStyles["states"] ?? ""}
            value={filter.states}
            options={STATES}
            onChange={(states) => set({ state: (states.length > 0 ? states : STATES).join(",") })}
          />
        )}
      />
      , with{" "}
      <InlinePicker
        label="Job"
        value={filter.title || ANY}
        picker={(close) => (
          <Combobox
            label="Job"
            value={filter.title || ANY}
            options={[ANY, ...titles].map((it) => ({
              value: it,
              label: it,
            }))}
            onChoose={(title) => {
              set({ job: title === ANY ? "" : title });
              close();
            }}
          />
        )}
      />
      ,{" "}
      <Keep>
        named <SentenceInput label="Part of the name" value={typed} onChange={onType} />
      </Keep>
      <MoreFilters filters={filter.more} onChange={(name, value) => set({ [name]: value })} />,
      grouped by{" "}
      <InlinePicker
        label="Grouped by"
        value={filter.by || UNGROUPED}
        picker={(close) => (
          <Combobox
            label="Grouped by"
            value={filter.by || UNGROUPED}
            options={[UNGROUPED, ...GROUPINGS].map((it) => ({ value: it, label: it }))}
            onChoose={(by) => {
              set({ by: by === UNGROUPED ? "" : by });
              close();
            }}
          />
        )}
      />
    </Sentence>
  );
}
