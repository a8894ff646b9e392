import type { Schemas } from "@/shared/api/client";

export type ExposedPerson = Schemas["ExposedPerson"];

/** How many people the chart lets stand out. */
export const STAND_OUT = 20;

/** The share of an exposure that is not used, from 0 to 1. */
export function shareOf({ exposure, unused }: ExposedPerson): number {
  return exposure === 0 ? 0 : unused / exposure;
}

/** Powers of ten around some exposures: the ends and marks of an axis that grows by tens. */
export function tensAround(values: number[]): number[] {
  const least = Math.floor(Math.log10(Math.min(...values)));
  const most = Math.max(least + 1, Math.ceil(Math.log10(Math.max(...values))));
  return Array.from({ length: most - least + 1 }, (_, i) => 10 ** (least + i));
}

/** How many names a chart of people has room for. */
const NAMED = 6;

/** Of some people, the first who can be named in a chart without one name over another. */
export function namedOf(people: ExposedPerson[]): Set<string> {
  const named: ExposedPerson[] = [];
  for (const it of people) {
    const room = named.every(
      (other) =>
        Math.abs(Math.log10(it.exposure) - Math.log10(other.exposure)) > 0.4 ||
        Math.abs(shareOf(it) - shareOf(other)) > 0.06,
    );
    if (room && named.length < NAMED) named.push(it);
  }
  return new Set(named.map((it) => it.key));
}
