import { useState } from "react";
import { Alert, Button, Input, Space } from "antd";
import {
  useAnswerFor,
  useEffectOf,
  useFinish,
  type Effect,
  type Item,
} from "@/entities/decision/queries";
import { impersonation } from "@/shared/lib/impersonation";
import { count } from "@/shared/lib/words";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import styles from "./Together.module.css";

interface Props {
  round: number;
  items: Item[];
  /** Whether the round is. */
  open: boolean;
}

function inWords(it: Effect): string {
  if (it.changes === 0) return "They change nothing.";
  const lose =
    it.lost > 0
      ? `${count(it.people, "person loses", "people lose")} ${count(it.lost, "right")}`
      : "Nobody loses anything";
  return `${lose}; ${it.gained > 0 ? `${count(it.gained, "right")} gained` : "nobody gains"}${
    it.others ? "; people you can't see may lose access too" : ""
  }.`;
}

/** What one's decisions do together, and the button that makes them count. */
export function Together({ round, items, open }: Props) {
  const decided = items.filter((it) => it.state === "decided").length;
  const effect = useEffectOf(round, open && decided > 0);
  const finish = useFinish(round);
  if (!open || decided === 0) return null;
  const waiting = effect.data?.broken.filter((it) => it.answer === undefined) ?? [];
  return (
    <section aria-label="Your decisions together" className={styles["bar"]}>
      <div role="status">
        <strong>{count(decided, "decision")} to finish.</strong>{" "}
        {effect.data ? inWords(effect.data) : "Working out what they do together…"}
      </div>
      {effect.isError && (
        <ProblemAlert problem={effect.error} onRetry={() => void effect.refetch()} />
      )}
      {effect.data?.faulty && (
        <Alert type="error" title="These decisions do not fit together. Undo the last ones." />
      )}
      {effect.data?.broken.map((it) => (
        <Broken key={it.key} round={round} broken={it} />
      ))}
      <Button
        type="primary"
        loading={finish.isPending}
        disabled={
          waiting.length > 0 || effect.data?.faulty === true || impersonation() !== undefined
        }
        onClick={() => finish.mutate(undefined)}
      >
        Finish {count(decided, "decision")}
      </Button>
      {finish.isError && <ProblemAlert problem={finish.error} />}
    </section>
  );
}

function Broken({ round, broken }: { round: number; broken: Effect["broken"][number] }) {
  const [said, setSaid] = useState("");
  const answer = useAnswerFor(round);
  return (
    <Alert
      type="warning"
      showIcon
      title={`The expectation “${broken.name}” would break.`}
      description={
        broken.answer !== undefined ? (
          `You answer for it: “${broken.answer}”`
        ) : (
          <>
            <p>{broken.said ?? "It is of an account that you can't see."}</p>
            <Space.Compact style={{ width: "100%" }}>
              <Input
                aria-label={`Why ${broken.name} may break`}
                placeholder="Why it may break, or change a decision"
                maxLength={1000}
                value={said}
                onChange={(event) => setSaid(event.target.value)}
              />
              <Button
                disabled={said.trim() === ""}
                loading={answer.isPending}
                onClick={() => answer.mutate({ expectation: broken.key, said })}
              >
                Answer for it
              </Button>
            </Space.Compact>
            {answer.isError && <ProblemAlert problem={answer.error} />}
          </>
        )
      }
    />
  );
}
