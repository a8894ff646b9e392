/** The stretch of values to draw, so that a figure that stays the same is a line in the middle. */
export function around(values: number[]): [number, number] {
  const least = Math.min(...values);
  const most = Math.max(...values);
  const room = Math.max(1, (most - least) / 10);
  return [least - room, most + room];
}
