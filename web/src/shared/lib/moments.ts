import dayjs, { type Dayjs } from "dayjs";
import timezone from "dayjs/plugin/timezone";
import utc from "dayjs/plugin/utc";

dayjs.extend(utc);
dayjs.extend(timezone);

/** Which moment a whole day stands for: its first, or the end of its last. */
export type Edge = "first" | "end";

const KEPT = "mandala.zone";

/** The zone in which one reads and gives times; UTC until one chooses another. */
export function zoneInUse(): string {
  return localStorage.getItem(KEPT) ?? "UTC";
}

export function keepZone(zone: string): void {
  localStorage.setItem(KEPT, zone);
}

/** Zones to choose from: UTC, that of this computer, then all others. */
export function zones(): string[] {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return [...new Set(["UTC", own, ...Intl.supportedValuesOf("timeZone")])];
}

/** A moment as a field shows it: a day in a zone, with a time where it is no whole day's edge. */
export interface Moment {
  day: Dayjs;
  timed: boolean;
}

/** An instant in a zone; the end of a day is shown as that day. */
export function momentOf(instant: string, edge: Edge, zone: string): Moment | undefined {
  const at = dayjs(instant);
  if (instant === "" || !at.isValid()) return undefined;
  const there = at.tz(zone);
  const whole = there.hour() === 0 && there.minute() === 0 && there.second() === 0;
  if (!whole) return { day: there, timed: true };
  const day = dayjs(there.format("YYYY-MM-DD"));
  return { day: edge === "end" ? day.subtract(1, "day") : day, timed: false };
}

/** The instant of a moment: a whole day begins with its first moment, and ends with its last. */
export function instantOf({ day, timed }: Moment, edge: Edge, zone: string): string {
  // the next day is counted on the calendar: not every day has 24 hours
  const last = !timed && edge === "end" ? day.add(1, "day") : day;
  const text = last.format(timed ? "YYYY-MM-DDTHH:mm" : "YYYY-MM-DD");
  return dayjs.tz(text, zone).utc().format("YYYY-MM-DDTHH:mm:ss[Z]");
}

/** The end of a day ahead, in the time zone that the viewer chose. */
export function endIn(days: number): string {
  const zone = zoneInUse();
  const there = dayjs().tz(zone).add(days, "day").format("YYYY-MM-DD");
  return instantOf({ day: dayjs(there), timed: false }, "end", zone);
}
