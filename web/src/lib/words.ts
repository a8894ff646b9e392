/** {@link many} things, in words: "1 right", "1,204 rights". */
export function count(many: number, one: string, more = one + "s"): string {
  return `${many.toLocaleString("en")} ${many === 1 ? one : more}`;
}

/** How long ago an instant was, as people say it. */
export function ago(instant: string | undefined, now: Date): string {
  if (!instant) return "never";
  const days =
    Math.floor(now.getTime() / 86_400_000) - Math.floor(Date.parse(instant) / 86_400_000);
  if (days <= 0) return "today";
  if (days === 1) return "yesterday";
  return days < 100 ? `${days} days` : instant.slice(0, 10);
}

/** An instant as a field of a sentence shows it. */
export function when(instant: string): string {
  const date = new Date(instant);
  const day = date.toLocaleDateString("en-GB", {
    day: "numeric",
    month: "long",
    year: "numeric",
    timeZone: "UTC",
  });
  const time = instant.slice(11, 16);
  return `${day}, ${time} UTC`;
}
