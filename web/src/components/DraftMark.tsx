const WORDS: Record<string, string> = {
  adds: "comes with the draft",
  alters: "changed by the draft",
  removes: "goes with the draft",
};

/** What the open draft does to a thing: a raised edge for what comes, a sunken one for what goes. */
export function DraftMark({ mark }: { mark: string | undefined }) {
  if (!mark) return null;
  return <small className={`draft-mark ${mark}`}>{WORDS[mark] ?? mark}</small>;
}
