import type { Schemas } from "@/shared/api/client";

export type Typed = Schemas["TypedView"];

/** Words by which a text may be a question, so that the server is asked to read it. */
const ASKING =
  /\b(what|who|whom|whose|why|how|can|may|could|is|does|access|rights|permissions|holders?|differ\w*|difference|compare|versus|vs|side by side|escalat\w*)\b/i;

/** Whether a text may be a question: it has a word that asks, and another. */
export function mayBeQuestion(text: string): boolean {
  return ASKING.test(text) && /\S\s+\S/.test(text);
}

/** What was understood, as an English sentence; an open part is “…”. */
export function sentenceOf(it: Typed): string {
  const who = it.person?.name ?? "…";
  const what = it.permission?.name ?? "…";
  const on = it.place ? ` on ${it.place.name}` : "";
  switch (it.form) {
    case "access":
      return `What can ${who} do${it.place ? ` in ${it.place.name}` : ""}?`;
    case "who":
      return `Who can use “${what}”${on || " on …"}?`;
    case "why":
      return `Why can, or can’t, ${who} use “${what}”${on || " on …"}?`;
    case "escalation":
      return `How could ${who} get “${what}”${on || " on …"}?`;
    case "difference":
      return `How do ${who} and ${it.other?.name ?? "…"} differ?`;
    case "side-by-side":
      return `${who} and ${it.other?.name ?? "…"}, side by side`;
    default:
      return "";
  }
}

/** The page that answers it; parts that are not known are chosen there. */
export function pageOf(it: Typed): string {
  const account = it.place?.key.startsWith("account:") ? it.place.key.slice(8) : undefined;
  const who = it.person?.key;
  const place = it.place?.key;
  const point = { who, permission: it.permission?.key, on: place };
  switch (it.form) {
    case "who":
      return address("/ask/who", { permission: it.permission?.key, on: place });
    case "why":
      return address("/ask/why", { ...point, factor: "1" });
    case "escalation":
      return address("/ask/escalation", point);
    case "difference":
      return address("/ask/differ", { one: who, other: it.other?.key });
    case "side-by-side":
      return address("/side", { left: who, right: it.other?.key });
    default:
      return address("/ask", { who, in: account, factor: "1" });
  }
}

function address(path: string, parts: Record<string, string | undefined>): string {
  const params = new URLSearchParams();
  for (const [name, value] of Object.entries(parts)) if (value) params.set(name, value);
  return `${path}?${params.toString()}`;
}
