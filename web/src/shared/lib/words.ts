/** `many` things in words: "1 right", "1,204 rights". */
export function count(many: number, one: string, more = one + "s"): string {
  return `${many.toLocaleString("en")} ${many === 1 ? one : more}`;
}

/** How long ago an instant was: "today", "9 days ago"; the date after a hundred days. */
export function ago(instant: string | undefined, now: Date): string {
  if (!instant) return "never";
  const days =
    Math.floor(now.getTime() / 86_400_000) - Math.floor(Date.parse(instant) / 86_400_000);
  if (days <= 0) return "today";
  if (days === 1) return "yesterday";
  return days < 100 ? `${days} days ago` : dayOf(instant);
}

const DAY = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  year: "numeric",
  timeZone: "UTC",
});

/** The day of an instant in UTC: "28 Nov 2026". What is no instant is given back as it is. */
export function dayOf(instant: string): string {
  if (Number.isNaN(Date.parse(instant))) return instant;
  return DAY.format(new Date(instant)).replace("Sept", "Sep");
}

/** An instant in UTC: "28 Nov 2026, 14:05 UTC". */
export function dateOf(instant: string): string {
  if (Number.isNaN(Date.parse(instant))) return instant;
  return `${dayOf(instant)}, ${instant.slice(11, 16)} UTC`;
}

const WHOLE_DAY = /T00:00:00(?:\.0+)?Z$/;

/** When something begins: its first day, or the instant where that is no beginning of a day (UTC). */
export function beginningOf(instant: string): string {
  return WHOLE_DAY.test(instant) ? dayOf(instant) : dateOf(instant);
}

/** When something ends: its last day, or the instant where that is no end of a day (UTC). */
export function endOf(instant: string): string {
  return WHOLE_DAY.test(instant)
    ? dayOf(new Date(Date.parse(instant) - 1).toISOString())
    : dateOf(instant);
}

/** Names as a list: "A, B and C". */
export function listed(names: string[]): string {
  return names.length < 2
    ? names.join("")
    : `${names.slice(0, -1).join(", ")} and ${names.at(-1) ?? ""}`;
}

/** The first word of a name. */
export function firstName(name: string): string {
  return name.split(" ")[0] ?? name;
}

/** A word with a capital at its beginning. */
export function capital(word: string): string {
  return word.charAt(0).toUpperCase() + word.slice(1);
}
