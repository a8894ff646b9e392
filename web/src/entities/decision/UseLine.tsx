import { count } from "@/shared/lib/words";

/** A small line of use over a window: a bar for each stretch of it, the oldest first. */
export function UseLine({ line, days }: { line: number[]; days: number }) {
  const most = Math.max(1, ...line);
  const used = line.reduce((sum, it) => sum + it, 0);
  return (
    <svg
      width="150"
      height="16"
      role="img"
      aria-label={`Used on ${count(used, "day")} of the last ${days}`}
    >
      <line x1="0" x2="150" y1="15.5" y2="15.5" stroke="var(--hairline)" />
      {line.map((it, i) => (
        <rect
          key={i}
          x={(i * 150) / line.length + 1}
          y={15 - (13 * it) / most}
          width={150 / line.length - 3}
          height={(13 * it) / most}
          fill="var(--view-moderate)"
        />
      ))}
    </svg>
  );
}
