import { useDeferredValue, useState } from "react";
import { AutoComplete, Button, Input, Select, Space } from "antd";
import type { Schemas } from "@/shared/api/client";
import { useRule } from "@/entities/thing/queries";
import type { Thing } from "@/shared/lib/thing";
import { count } from "@/shared/lib/words";
import { LinkButton } from "@/shared/ui/LinkButton";
import { ATTRIBUTES, OPS, written, type Rule, type Test } from "../model";
import styles from "./RuleBuilder.module.css";

interface Props {
  account: string;
  rule: Rule | undefined;
  /** Called with the finished rule, or with null to remove it. */
  onPut: (rule: Thing | null) => void;
}

const EMPTY: Test = { attribute: "", op: "is", value: "" };

/** Builds a group's rule test by test, and shows who matches it now. */
export function RuleBuilder({ account, rule, onPut }: Props) {
  const [built, setBuilt] = useState<Rule>(rule ?? { match: "all", tests: [EMPTY] });
  const asked = useDeferredValue(written(built));
  const matches = useRule(account, asked);
  const set = (at: number, changes: Partial<Test>) =>
    setBuilt({
      ...built,
      tests: built.tests.map((it, i) => (i === at ? { ...it, ...changes } : it)),
    });
  return (
    <div role="group" aria-label="Rule">
      <div>
        Members are people who pass{" "}
        <Select
          size="small"
          aria-label="Tests to pass"
          value={built.match}
          options={[
            { value: "all", label: "all of these tests" },
            { value: "any", label: "any of these tests" },
          ]}
          onChange={(match) => setBuilt({ ...built, match })}
        />
      </div>
      {built.tests.map((test, at) => (
        <TestRow
          key={at}
          number={at + 1}
          test={test}
          onChange={(changes) => set(at, changes)}
          onRemove={() => setBuilt({ ...built, tests: built.tests.filter((_, i) => i !== at) })}
        />
      ))}
      <LinkButton onClick={() => setBuilt({ ...built, tests: [...built.tests, EMPTY] })}>
        Add a test
      </LinkButton>
      <p className="note" role="status">
        {!asked
          ? "No one matches yet. Finish a test."
          : matches.isError
            ? `Who matches can't be counted: ${matches.error.message}.`
            : matches.data
              ? matched(matches.data)
              : "Counting…"}
      </p>
      <Space>
        <Button
          size="small"
          type="primary"
          disabled={!written(built)}
          onClick={() => onPut(written(built) ?? null)}
        >
          Add rule to draft
        </Button>
        {rule && (
          <Button size="small" onClick={() => onPut(null)}>
            Remove rule
          </Button>
        )}
      </Space>
    </div>
  );
}

function matched(it: Schemas["RuleTakes"]): string {
  const names = it.first.map((each) => each.name).join(", ");
  const more = it.count > it.first.length ? "…" : "";
  return `${count(it.count, "person", "people")} of ${it.of} match now${names ? `: ${names}${more}` : "."}`;
}

interface TestProps {
  number: number;
  test: Test;
  onChange: (changes: Partial<Test>) => void;
  onRemove: () => void;
}

function TestRow({ number, test, onChange, onRemove }: TestProps) {
  const value = Array.isArray(test.value) ? test.value.join(", ") : (test.value ?? "");
  return (
    <div className={styles["test"]}>
      <AutoComplete
        aria-label={`Attribute of test ${number}`}
        placeholder="title, unit, …"
        value={test.attribute}
        options={ATTRIBUTES.map((it) => ({ value: it }))}
        onChange={(attribute: string) => onChange({ attribute })}
      />
      <Select
        aria-label={`Comparison of test ${number}`}
        value={test.op}
        options={OPS}
        onChange={(op) => onChange({ op })}
      />
      {test.op !== "present" && test.op !== "absent" && (
        <Input
          aria-label={`Value of test ${number}`}
          placeholder={test.op === "in" ? "one, another" : "value"}
          value={value}
          onChange={(event) => onChange({ value: event.target.value })}
        />
      )}
      <LinkButton aria-label={`Remove test ${number}`} onClick={onRemove}>
        Remove
      </LinkButton>
    </div>
  );
}
