import type { ExposureDay } from "./figures";

/** A point of a line. */
interface Point {
  /** In milliseconds. */
  time: number;
  exposure: number;
  unused?: number;
}

/** The points of figures that each count until the next, up to now. */
export function timeline(days: ExposureDay[], now: number): Point[] {
  const points = days.map(({ day, exposure, unused }) => ({
    time: Date.parse(day),
    exposure,
    ...(unused !== undefined && { unused }),
  }));
  const last = points.at(-1);
  return last && last.time < now ? [...points, { ...last, time: now }] : points;
}
