import { useState } from "react";
import type { Schemas } from "@/shared/api/client";
import { useScope } from "@/entities/thing/queries";
import { count } from "@/shared/lib/words";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { LinkButton } from "@/shared/ui/LinkButton";
import { clauseInWords, type Clause } from "./model";
import styles from "./ScopeBuilder.module.css";
import { TermPicker } from "./TermPicker";

interface Props {
  label: string;
  scope: Clause[];
  onChange: (scope: Clause[]) => void;
}

/** Builds a scope clause by clause, and shows what it covers now. */
export function ScopeBuilder({ label, scope, onChange }: Props) {
  const [names, setNames] = useState(new Map<string, string>());
  const covers = useScope(scope);

  function put(at: number, term: string, value: unknown, name?: string) {
    if (name) setNames(new Map(names).set(`${term}:${String(value)}`, name));
    const clause = { ...scope[at], [term]: value };
    onChange(
      at < scope.length ? scope.map((it, i) => (i === at ? clause : it)) : [...scope, clause],
    );
  }

  return (
    <div role="group" aria-label={label}>
      {scope.map((clause, at) => (
        <p key={at} className={styles["clause"]}>
          {at > 0 && <span className="quiet">or </span>}
          <strong>{clauseInWords(clause, names)}</strong>
          <InlinePicker
            label={`Narrow clause ${at + 1}`}
            look="link"
            value="Narrow"
            picker={(close) => (
              <TermPicker
                onPick={(term, value, name) => {
                  put(at, term, value, name);
                  close();
                }}
              />
            )}
          />
          <LinkButton
            aria-label={`Remove clause ${at + 1}`}
            onClick={() => onChange(scope.filter((_, i) => i !== at))}
          >
            Remove
          </LinkButton>
        </p>
      ))}
      <InlinePicker
        label={scope.length === 0 ? label : "Add another clause"}
        look="link"
        value={scope.length === 0 ? "Choose where" : "Add another place"}
        picker={(close) => (
          <TermPicker
            onPick={(term, value, name) => {
              put(scope.length, term, value, name);
              close();
            }}
          />
        )}
      />
      <p className="note" role="status">
        {scope.length === 0
          ? "Nothing chosen. An empty scope covers nothing."
          : covers.data
            ? covered(covers.data)
            : covers.isError
              ? `What it covers can't be counted: ${covers.error.message}.`
              : "Counting…"}
      </p>
    </div>
  );
}

/** What a scope covers, in words. */
function covered(it: Schemas["ScopeCovers"]): string {
  const names = it.first.map((each) => each.name).join(", ");
  return [
    it.everything && "Everything: ",
    it.relative && "up to ",
    count(it.count, "resource"),
    it.sealedOff > 0 && `, ${it.sealedOff} of them sealed off`,
    names && `: ${names}`,
    it.count > it.first.length && names && "…",
    it.cut && " (only accounts you can see)",
  ]
    .filter(Boolean)
    .join("");
}
