import { Checkbox, Collapse, InputNumber, Tag } from "antd";
import { count } from "@/shared/lib/words";
import type { Options } from "./trim";
import styles from "./UseOfAccess.module.css";

interface Props {
  options: Options;
  onChange: (options: Options) => void;
}

/** What may be trimmed, and how far. */
export function TrimOptions({ options, onChange }: Props) {
  const set = (some: Partial<Options>) => onChange({ ...options, ...some });
  const kept = options.untouched.length;
  return (
    <Collapse
      ghost
      size="small"
      className={styles["options"] ?? ""}
      items={[
        {
          key: "options",
          label: kept > 0 ? `Options, ${count(kept, "thing")} left as they are` : "Options",
          children: (
            <>
              <p>
                <Checkbox
                  checked={options.others}
                  onChange={(event) => set({ others: event.target.checked })}
                >
                  Also change what they get together with others
                </Checkbox>
              </p>
              <p>
                <Checkbox
                  checked={options.split}
                  onChange={(event) => set({ split: event.target.checked })}
                >
                  May replace a group&apos;s assignment by assignments to its members
                </Checkbox>
              </p>
              <p>
                <label>
                  A narrowed scope has at most{" "}
                  <InputNumber
                    size="small"
                    aria-label="Clauses"
                    min={1}
                    max={24}
                    value={options.clauses}
                    onChange={(clauses) => clauses && set({ clauses })}
                  />{" "}
                  clauses
                </label>
              </p>
              <p>
                <label>
                  Rarely used means on at most{" "}
                  <InputNumber
                    size="small"
                    aria-label="Days"
                    min={1}
                    max={31}
                    value={options.rareDays}
                    onChange={(rareDays) => rareDays && set({ rareDays })}
                  />{" "}
                  days
                </label>
              </p>
              {kept > 0 && (
                <p>
                  Left as they are:{" "}
                  {options.untouched.map((it) => (
                    <Tag
                      key={it}
                      closable
                      onClose={() =>
                        set({ untouched: options.untouched.filter((other) => other !== it) })
                      }
                    >
                      {it.slice(it.indexOf(":") + 1)}
                    </Tag>
                  ))}
                </p>
              )}
            </>
          ),
        },
      ]}
    />
  );
}
