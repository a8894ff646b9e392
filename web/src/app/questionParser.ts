/** A question typed as a sentence: its form, and the names that stand in it. */
export type Asked =
  | { form: "access"; who: string; where: string }
  | { form: "who"; what: string; where: string }
  | { form: "differ"; one: string; other: string }
  | { form: "why"; who: string; what: string; where: string }
  | { form: "chains"; who: string; what: string; where: string };

const FORMS: [RegExp, (parts: string[]) => Asked][] = [
  [
    /^what can (.+?) do(?: in (.+?))?$/,
    ([who = "", where = ""]) => ({ form: "access", who, where }),
  ],
  [
    /^how (?:does|do) (.+?) differ from (.+?)$/,
    ([one = "", other = ""]) => ({ form: "differ", one, other }),
  ],
  [
    /^how could (.+?) (?:get|come to) (.+?) on (.+?)$/,
    ([who = "", what = "", where = ""]) => ({ form: "chains", who, what, where }),
  ],
  [
    /^why (?:can't|cannot|can not|can) (.+?) do (.+?) on (.+?)$/,
    ([who = "", what = "", where = ""]) => ({ form: "why", who, what, where }),
  ],
  [
    /^why (?:can't|cannot|can not|can) (\S+ \S+) (.+?) on (.+?)$/,
    ([who = "", what = "", where = ""]) => ({ form: "why", who, what, where }),
  ],
  [/^who can (.+?) on (.+?)$/, ([what = "", where = ""]) => ({ form: "who", what, where })],
];

/**
 * Reads a question as it is typed; nothing where it is none, or not yet whole. Names are told apart
 * by the words between them; in "why can X do Y on Z" by "do", or else a name has two words.
 */
export function questionIn(typed: string): Asked | undefined {
  const text = typed
    .trim()
    .replace(/[?.\s]+$/, "")
    .replace(/\s+/g, " ")
    .replace(/’/g, "'");
  const lower = text.toLowerCase();
  for (const [form, asked] of FORMS) {
    const found = form.exec(lower);
    if (found) return asked(found.slice(1));
  }
  return undefined;
}

/** Of things found by a part of their name, the one that is meant: the same name, else the first. */
export function meant<T extends { name: string; key: string }>(
  name: string,
  found: T[],
): T | undefined {
  const wanted = name.toLowerCase();
  return found.find((it) => it.name.toLowerCase() === wanted || it.key === wanted) ?? found.at(0);
}

interface Meant {
  who?: string;
  other?: string;
  what?: string;
  where?: string;
}

/** The page that answers it, once all names are known; else which of them is not. */
export function pageOf(asked: Asked, it: Meant): { page?: string; unknown?: string } {
  const query = (path: string, parts: Record<string, string | undefined>) => {
    const params = new URLSearchParams();
    for (const [name, value] of Object.entries(parts)) if (value) params.set(name, value);
    return { page: `${path}?${params.toString()}` };
  };
  switch (asked.form) {
    case "access":
      if (!it.who) return { unknown: asked.who };
      if (asked.where && !it.where) return { unknown: asked.where };
      return query("/ask", { who: it.who, in: it.where, factor: "1" });
    case "who":
      if (!it.what) return { unknown: asked.what };
      if (!it.where) return { unknown: asked.where };
      return query("/ask/who", { permission: it.what, on: it.where });
    case "differ":
      if (!it.who) return { unknown: asked.one };
      if (!it.other) return { unknown: asked.other };
      return query("/ask/differ", { one: it.who, other: it.other });
    case "why":
    case "chains":
      if (!it.who) return { unknown: asked.who };
      if (!it.what) return { unknown: asked.what };
      if (!it.where) return { unknown: asked.where };
      return asked.form === "chains"
        ? query("/ask/chains", { who: it.who, permission: it.what, on: it.where })
        : query("/ask/why", { who: it.who, permission: it.what, on: it.where, factor: "1" });
    default:
      return asked satisfies never;
  }
}
