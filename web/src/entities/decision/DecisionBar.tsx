import { lazy, Suspense, useEffect, useRef, useState } from "react";
import { Button, Space } from "antd";
import { impersonation } from "@/shared/lib/impersonation";
import { ProblemAlert } from "@/shared/ui/ProblemAlert";
import type { Asking } from "./DecisionDialog";
import { reasonFor, VERDICTS, PAST } from "./model";
import { useDecide, useUndo, type Decision, type ItemDetail, type MyItems } from "./queries";

const DecisionDialog = lazy(async () => ({
  default: (await import("./DecisionDialog")).DecisionDialog,
}));
const PassDialog = lazy(async () => ({ default: (await import("./PassDialog")).PassDialog }));
const SayDialog = lazy(async () => ({ default: (await import("./SayDialog")).SayDialog }));

interface Props {
  round: number;
  item: ItemDetail;
  targets: MyItems["passTo"];
  onDecided: () => void;
  onMove: (by: 1 | -1) => void;
}

type Open = Asking | "pass" | "ask" | "comment" | undefined;

const BUSY =
  "input:not([type=checkbox]), textarea, select, [role=combobox], [role=listbox], [role=dialog]";

/** Keep, reduce, remove, pass on, ask: by button or by one key each. */
export function DecisionBar({ round, item, targets, onDecided, onMove }: Props) {
  const [open, setOpen] = useState<Open>();
  const decide = useDecide(round);
  const undo = useUndo(round);
  const { row } = item;
  const why = reasonFor(row);
  const blocked = impersonation() !== undefined;
  const put = (body: Omit<Decision, "facts">) =>
    decide.mutate(
      { item: row.number, body: { ...body, facts: item.facts } },
      {
        onSuccess: () => {
          setOpen(undefined);
          onDecided();
        },
      },
    );
  const keep = () => (why ? setOpen("keep") : put({ verdict: "keep" }));
  const remove = () => (item.with.length > 0 ? setOpen("remove") : put({ verdict: "remove" }));
  const reduce = () => item.reductions.length > 0 && setOpen("reduce");
  const person = row.aboutKind === "principals";
  const keys: Record<string, () => void> = {
    "1": keep,
    "2": reduce,
    "3": remove,
    "4": () => setOpen("pass"),
    "5": () => person && setOpen("ask"),
    c: () => setOpen("comment"),
    u: () => row.state === "decided" && undo.mutate(row.number),
    j: () => onMove(1),
    k: () => onMove(-1),
  };
  useKeys(keys, blocked || open !== undefined || decide.isPending);
  return (
    <div>
      <Space wrap>
        <Button disabled={blocked} onClick={keep} aria-keyshortcuts="1">
          {VERDICTS.keep}
          {why && "…"}
        </Button>
        <Button
          disabled={blocked || item.reductions.length === 0}
          onClick={reduce}
          aria-keyshortcuts="2"
        >
          {VERDICTS.reduce}…
        </Button>
        <Button
          type={item.advice?.verdict === "remove" ? "primary" : "default"}
          disabled={blocked}
          onClick={remove}
          aria-keyshortcuts="3"
        >
          {VERDICTS.remove}
          {item.with.length > 0 && "…"}
        </Button>
        <Button disabled={blocked} onClick={() => setOpen("pass")} aria-keyshortcuts="4">
          Pass on…
        </Button>
        <Button disabled={blocked || !person} onClick={() => setOpen("ask")} aria-keyshortcuts="5">
          Ask them…
        </Button>
        <Button type="text" disabled={blocked} onClick={() => setOpen("comment")}>
          Comment…
        </Button>
      </Space>
      <p className="note">
        {row.verdict ? (
          <>
            You {PAST[row.verdict]} this{row.reason && ` (“${row.reason}”)`}.{" "}
            <Button
              type="link"
              size="small"
              loading={undo.isPending}
              onClick={() => undo.mutate(row.number)}
            >
              Undo
            </Button>
          </>
        ) : (
          why && `Keeping it needs a reason: ${why.charAt(0).toLowerCase()}${why.slice(1)}.`
        )}
      </p>
      {decide.isError && open === undefined && <ProblemAlert problem={decide.error} />}
      {undo.isError && <ProblemAlert problem={undo.error} />}
      <Suspense>
        {(open === "keep" || open === "reduce" || open === "remove") && (
          <DecisionDialog
            asking={open}
            item={item}
            why={why}
            pending={decide.isPending}
            problem={decide.error}
            onDecide={put}
            onClose={() => setOpen(undefined)}
          />
        )}
        {open === "pass" && (
          <PassDialog
            round={round}
            item={row}
            targets={targets}
            onClose={() => setOpen(undefined)}
          />
        )}
        {(open === "ask" || open === "comment") && (
          <SayDialog
            round={round}
            item={row}
            ask={open === "ask"}
            onClose={() => setOpen(undefined)}
          />
        )}
      </Suspense>
    </div>
  );
}

/** One key for each act, as long as no field or dialog has the focus. */
function useKeys(keys: Record<string, () => void>, off: boolean) {
  const held = useRef(keys);
  useEffect(() => {
    held.current = keys;
  });
  useEffect(() => {
    if (off) return;
    function press(event: KeyboardEvent) {
      const { target } = event;
      const busy =
        event.defaultPrevented || (target instanceof Element && target.closest(BUSY) !== null);
      if (busy || event.ctrlKey || event.metaKey || event.altKey) return;
      const act = held.current[event.key];
      if (act) {
        event.preventDefault();
        act();
      }
    }
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [off]);
}
