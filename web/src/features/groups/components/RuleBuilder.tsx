import { useDeferredValue, useState } from "react";
import { Button } from "antd";
import { count } from "../../../lib/words";
import { useRule } from "../../things/queries";
import { OPS, written, type Rule, type Test } from "../model";

interface Props {
  account: string;
  rule: Rule | undefined;
  onPut: (rule: Record<string, unknown> | null) => void;
}

const EMPTY: Test = { attribute: "", op: "is", value: "" };

/** Builds a rule test by test, with a live count and list of whom it takes in now. */
export function RuleBuilder({ account, rule, onPut }: Props) {
  const [built, setBuilt] = useState<Rule>(rule ?? { match: "all", tests: [EMPTY] });
  const asked = useDeferredValue(written(built));
  const takes = useRule(account, asked);
  const set = (at: number, changes: Partial<Test>) =>
    setBuilt({
      ...built,
      tests: built.tests.map((it, i) => (i === at ? { ...it, ...changes } : it)),
    });
  const plain = (it: Test) => (Array.isArray(it.value) ? it.value.join(", ") : (it.value ?? ""));
  return (
    <div className="rule" role="group" aria-label="Rule">
      <p>
        Takes in whoever passes{" "}
        <select
          className="plain-input"
          aria-label="How many tests"
          value={built.match}
          onChange={(event) =>
            setBuilt({ ...built, match: event.target.value === "any" ? "any" : "all" })
          }
        >
          <option value="all">all of these</option>
          <option value="any">any of these</option>
        </select>
        :
      </p>
      {built.tests.map((test, at) => (
        <p key={at} className="rule-test">
          <input
            className="plain-input"
            aria-label={`Attribute of test ${at + 1}`}
            list="rule-attributes"
            placeholder="title, unit, …"
            value={test.attribute}
            onChange={(event) => set(at, { attribute: event.target.value })}
          />
          <select
            className="plain-input"
            aria-label={`Comparison of test ${at + 1}`}
            value={test.op}
            onChange={(event) => set(at, { op: event.target.value })}
          >
            {OPS.map((it) => (
              <option key={it.value} value={it.value}>
                {it.label}
              </option>
            ))}
          </select>
          {test.op !== "present" && test.op !== "absent" && (
            <input
              className="plain-input"
              aria-label={`Value of test ${at + 1}`}
              placeholder={test.op === "in" ? "one, another" : "value"}
              value={plain(test)}
              onChange={(event) => set(at, { value: event.target.value })}
            />
          )}
          <button
            type="button"
            className="link"
            aria-label={`Take away test ${at + 1}`}
            onClick={() => setBuilt({ ...built, tests: built.tests.filter((_, i) => i !== at) })}
          >
            take away
          </button>
        </p>
      ))}
      <datalist id="rule-attributes">
        {["title", "unit", "manager", "kind", "account", "status"].map((it) => (
          <option key={it} value={it} />
        ))}
      </datalist>
      <button
        type="button"
        className="link"
        onClick={() => setBuilt({ ...built, tests: [...built.tests, EMPTY] })}
      >
        and another test
      </button>
      <p className="note" role="status">
        {!asked
          ? "Nobody yet: finish a test."
          : takes.isError
            ? takes.error.message
            : takes.data
              ? `${count(takes.data.count, "person", "people")} of ${takes.data.of} now${takes.data.first.length > 0 ? ": " : ""}${takes.data.first.map((it) => it.name).join(", ")}${takes.data.count > takes.data.first.length ? " …" : ""}`
              : "Counting …"}
      </p>
      <p className="acts">
        <Button
          size="small"
          type="primary"
          disabled={!written(built)}
          onClick={() => onPut(written(built) ?? null)}
        >
          Put the rule into the draft
        </Button>
        {rule && (
          <Button size="small" onClick={() => onPut(null)}>
            No rule
          </Button>
        )}
      </p>
    </div>
  );
}
