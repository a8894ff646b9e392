import { Timeline } from "antd";
import type { ItemDetail } from "@/entities/decision/queries";
import { dateOf } from "@/shared/lib/words";

type Act = ItemDetail["history"][number];

const ACTS: Record<string, (it: Act) => string> = {
  decided: (it) => `decided to ${it.verdict ?? "keep"} it`,
  undone: () => "took the decision back",
  passed: (it) => `passed it on to ${it.whomName ?? "somebody"}`,
  given: (it) => `gave it to ${it.whomName ?? "somebody"}`,
  asked: (it) => `asked ${it.whomName ?? "them"}`,
  answered: () => "answered",
  commented: () => "commented",
  counted: (it) => `finished: ${it.verdict ?? ""}`,
  deputy: (it) => `it went to the deputy ${it.whomName ?? ""}`,
  changed: () => "it changed in the model",
  "in-force": () => "it took effect",
  returned: () => "it came back",
  escalated: (it) => `undecided at the end, it went to ${it.whomName ?? "their manager"}`,
  "by-rule": (it) => `decided by the round's rule: ${it.verdict ?? ""}`,
  "taken-back": () => "took the decision back",
  "answered-for": () => "answered for it",
  gone: () => "it is gone from the model",
};

/** What was done with an item and said of it. */
export function ItemHistory({ item }: { item: ItemDetail }) {
  if (item.history.length === 0) return null;
  return (
    <section aria-label="History">
      <h2 className="part">History</h2>
      <Timeline
        items={item.history.map((it) => ({
          content: (
            <>
              {it.whoName ?? "Mandala"}: {ACTS[it.act]?.(it) ?? it.act}
              {it.said && <>, “{it.said}”</>} <span className="note">{dateOf(it.at)}</span>
            </>
          ),
        }))}
      />
    </section>
  );
}
