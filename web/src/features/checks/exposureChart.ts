/** Somebody's place in the chart. */
export interface Placed {
  key: string;
  name: string;
  exposure: number;
  /** How much of it is not used, in percent. */
  share: number;
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
export function namedOf(people: Placed[]): Set<string> {
  const named: Placed[] = [];
  for (const it of people) {
    const room = named.every(
      (other) =>
        Math.abs(Math.log10(it.exposure) - Math.log10(other.exposure)) > 0.4 ||
        Math.abs(it.share - other.share) > 6,
    );
    if (room && named.length < NAMED) named.push(it);
  }
  return new Set(named.map((it) => it.key));
}
