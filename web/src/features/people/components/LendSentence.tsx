import { useAccounts } from "@/entities/account/queries";
import { PersonField } from "@/entities/subject/PersonField";
import { ChoiceWord } from "@/shared/ui/ChoiceWord";
import { DateField } from "@/shared/ui/DateField";
import { Keep, Sentence } from "@/shared/ui/Sentence";

/** A loan as it is chosen; what is empty is not chosen so far. */
export interface LoanChoice {
  account: string;
  /** Key of who answers for them. */
  sponsor: string;
  /** A day; empty: with the draft. */
  from: string;
  /** The day of the end. */
  until: string;
}

interface Props {
  name: string;
  self: string;
  /** Their home account: there and below it they belong already. */
  home: string;
  loan: LoanChoice;
  onChange: (loan: LoanChoice) => void;
}

/** To whom somebody is lent, as a sentence. */
export function LendSentence({ name, self, home, loan, onChange }: Props) {
  const all = useAccounts().data?.accounts ?? [];
  const own = new Set([home]);
  for (const it of all) if (it.parent !== undefined && own.has(it.parent)) own.add(it.key);
  const accounts = all.filter((it) => !own.has(it.key));
  return (
    <Sentence>
      {name} works in{" "}
      <ChoiceWord
        label="Account"
        value={loan.account}
        otherwise="an account"
        options={accounts.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
        onChoose={(account) => onChange({ ...loan, account })}
      />{" "}
      <Keep>
        from{" "}
        <DateField
          label="First day"
          placeholder="with the draft"
          value={loan.from}
          onChange={(from) => onChange({ ...loan, from })}
        />
      </Keep>{" "}
      <Keep>
        until{" "}
        <DateField
          label="End of the loan"
          placeholder="choose a day"
          value={loan.until}
          onChange={(until) => onChange({ ...loan, until })}
        />
        ,
      </Keep>{" "}
      and{" "}
      <PersonField
        label="Who answers for them"
        value={loan.sponsor === "" ? "somebody" : loan.sponsor}
        current={loan.sponsor}
        not={self}
        onChoose={(sponsor) => onChange({ ...loan, sponsor })}
      />{" "}
      answers for them there
    </Sentence>
  );
}
