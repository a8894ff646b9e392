import { useAccounts } from "@/entities/account/queries";
import { PersonField } from "@/entities/subject/PersonField";
import { ThingField } from "@/entities/thing/ThingField";
import { Combobox } from "@/shared/ui/Combobox";
import { DateField } from "@/shared/ui/DateField";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { SentenceInput } from "@/shared/ui/SentenceInput";

/** The post that somebody takes up; what is empty is none. */
export interface Post {
  account: string;
  accountName: string;
  unit: string;
  unitName: string;
  title: string;
  manager: string;
  /** A day; empty: with the draft. */
  at: string;
  /** The end of the grace time, a day; empty: none. */
  grace: string;
}

interface Props {
  name: string;
  /** Their key: nobody reports to themselves. */
  self: string;
  post: Post;
  onChange: (post: Post) => void;
}

/** Where somebody moves, as a sentence. */
export function MoveSentence({ name, self, post, onChange }: Props) {
  const accounts = useAccounts().data?.accounts ?? [];
  return (
    <Sentence>
      {name} moves to{" "}
      <InlinePicker
        label="Account"
        value={post.accountName}
        picker={(close) => (
          <Combobox
            label="Account"
            value={post.account}
            options={accounts.map((it) => ({ value: it.key, label: it.name, depth: it.depth }))}
            onChoose={(account) => {
              const accountName = accounts.find((it) => it.key === account)?.name ?? account;
              onChange({ ...post, account, accountName, unit: "", unitName: "", manager: "" });
              close();
            }}
          />
        )}
      />
      ,{" "}
      <ThingField
        label="Unit"
        value={post.unitName === "" ? "no unit" : post.unitName}
        kind="units"
        onChoose={(unit, unitName) => onChange({ ...post, unit, unitName })}
      />
      , as{" "}
      <Keep>
        <SentenceInput
          label="Job"
          value={post.title}
          placeholder="no job"
          onChange={(title) => onChange({ ...post, title })}
        />
        ,
      </Keep>{" "}
      reporting to{" "}
      <PersonField
        label="Manager"
        value={post.manager === "" ? "nobody" : post.manager}
        current={post.manager}
        not={self}
        onChoose={(manager) => onChange({ ...post, manager })}
      />
      ,{" "}
      <Keep>
        on{" "}
        <DateField
          label="Day of the move"
          placeholder="with the draft"
          value={post.at}
          onChange={(at) => onChange({ ...post, at })}
        />
      </Keep>{" "}
      <Keep>
        with a grace time until{" "}
        <DateField
          label="End of the grace time"
          placeholder="none"
          value={post.grace}
          onChange={(grace) => onChange({ ...post, grace })}
        />
      </Keep>
    </Sentence>
  );
}
