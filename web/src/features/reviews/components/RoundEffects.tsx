import { useState } from "react";
import { Alert, Button, Input, Modal } from "antd";
import { Link } from "react-router";
import { count } from "@/shared/lib/words";
import { DataTable, type Column } from "@/shared/ui/DataTable";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import { effectsInWords } from "../model";
import { useAnswerFor, useEffects, useTakeOver, type Round, type Unsettled } from "../queries";

/** What becomes of a round's decisions, and what keeps it from closing. */
export function RoundEffects({ round }: { round: Round }) {
  const effects = useEffects(round.number);
  const [answering, setAnswering] = useState<Unsettled>();
  const takeOver = useTakeOver(round.number);
  if (effects.isError) return <ProblemAlert problem={effects.error} />;
  const it = effects.data;
  if (!it) return null;
  const words = effectsInWords(it);
  const waits = round.heldUp !== undefined;
  if (words.length === 0 && !waits && !it.late) return null;
  return (
    <section aria-label="What became of it">
      <h2 className="part">What became of it</h2>
      {words.length > 0 && <p>{words.join(" · ")}</p>}
      {it.drafts.map((draft, i) => (
        <p key={draft.id ?? i}>
          {draft.id ? (
            <Link to={`/drafts/${draft.id}`}>A draft of {count(draft.items, "decision")}</Link>
          ) : (
            `A draft of ${count(draft.items, "decision")}`
          )}{" "}
          waits for an approval.
        </p>
      ))}
      {waits && it.others && (
        <Alert
          type="info"
          showIcon
          title="You can take the round over. Its decisions then take effect with your access."
          action={
            <Button size="small" loading={takeOver.isPending} onClick={() => takeOver.mutate()}>
              Take over
            </Button>
          }
        />
      )}
      {takeOver.isError && <ProblemAlert problem={takeOver.error} />}
      {it.late && it.left > 0 && (
        <>
          <p>
            The end is over. The round closes when each of these is decided and in force, or
            answered for.
          </p>
          <DataTable<Unsettled>
            label="What is left"
            rows={it.unsettled}
            rowKey={(row) => String(row.number)}
            columns={columns(setAnswering)}
          />
          {it.left > it.unsettled.length && (
            <p className="note">
              The first {it.unsettled.length} of {it.left.toLocaleString("en")}.
            </p>
          )}
        </>
      )}
      {answering && (
        <AnswerDialog
          round={round.number}
          item={answering}
          onClose={() => setAnswering(undefined)}
        />
      )}
    </section>
  );
}

const STATES: Record<Unsettled["state"], string> = {
  undecided: "undecided",
  due: "decided, not in force",
  waiting: "waits for an approval",
};

function columns(onAnswer: (it: Unsettled) => void): Column<Unsettled>[] {
  return [
    { key: "what", title: "item", render: (it) => it.text },
    { key: "reviewer", title: "reviewer", width: 170, render: (it) => it.deciderName },
    { key: "state", title: "state", width: 170, render: (it) => STATES[it.state] },
    { key: "why", title: "why", render: (it) => it.why ?? "" },
    {
      key: "act",
      title: "act",
      quietTitle: true,
      width: 130,
      render: (it) =>
        (it.state !== "undecided" || it.why !== undefined) && (
          <Button size="small" onClick={() => onAnswer(it)}>
            Answer for it
          </Button>
        ),
    },
  ];
}

interface AnswerProps {
  round: number;
  item: Unsettled;
  onClose: () => void;
}

function AnswerDialog({ round, item, onClose }: AnswerProps) {
  const [said, setSaid] = useState("");
  const answer = useAnswerFor(round, onClose);
  return (
    <Modal
      open
      title={`Answer for “${item.text}”`}
      okText="Answer for it"
      cancelText="Back"
      okButtonProps={{ disabled: said.trim() === "", loading: answer.isPending }}
      onOk={() => answer.mutate({ item: item.number, said })}
      onCancel={onClose}
    >
      <p>The access stays as it is, and the report says that you answer for it, and how.</p>
      <Input.TextArea
        aria-label="Answer"
        placeholder="Why it stays, and what is done about it"
        rows={3}
        maxLength={1000}
        value={said}
        onChange={(event) => setSaid(event.target.value)}
      />
      {answer.isError && <ProblemAlert problem={answer.error} />}
    </Modal>
  );
}
