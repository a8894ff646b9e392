/** Parts of a question that its forms share, by their names in the address. */
const SHARED = ["who", "permission", "on", "at", "in"] as const;

/** The form of question that asks about everybody's second factor, where it counts unless "0". */
const WHO = "/ask/who";

/** A person on one side of a comparison; roles, patterns and colleagues are none. */
function personOf(side: string | null): string {
  return side && !side.includes(":") ? side : "";
}

/**
 * The address, from the `?` on, of another form of question with what this one is about.
 *
 * @param to the page of the other form
 * @param from the page whose parameters are given
 */
export function carriedTo(to: string, from: string, params: URLSearchParams): string {
  const next = new URLSearchParams();
  const about = Object.fromEntries(SHARED.map((name) => [name, params.get(name) ?? ""]));
  about["who"] ||= personOf(params.get("one")) || (params.get("left") ?? "");
  about["on"] ||= params.get("below") ?? "";
  if (to === "/ask/differ") next.set("one", about["who"] ?? "");
  if (to === "/side") next.set("left", about["who"] ?? "");
  for (const [name, value] of Object.entries(about)) {
    if (value && !(name === "who" && next.size > 0)) next.set(name, value);
  }
  const given = params.get("factor");
  const factor = from === WHO ? given !== "0" : given === "1";
  if (to === WHO && !factor && given !== null) next.set("factor", "0");
  if (to !== WHO && factor) next.set("factor", "1");
  for (const [name, value] of [...next]) if (!value) next.delete(name);
  return next.size > 0 ? `?${next.toString()}` : "";
}
