import { CartesianGrid, Line, LineChart, ReferenceDot, Tooltip, XAxis, YAxis } from "recharts";
import type { Trim } from "@/entities/access/excess";
import { count } from "@/shared/lib/words";

interface Props {
  trim: Trim;
  /** The point that is chosen. */
  chosen: number;
  onChoose: (point: number) => void;
}

/** How much exposure is left after how many changes; a click chooses where to stop. */
export default function TrimCurve({ trim, chosen, onChoose }: Props) {
  const rows = [
    { changes: 0, exposure: trim.own, added: 0 },
    ...trim.points.map((it) => ({ changes: it.steps, exposure: it.own, added: it.added })),
  ];
  const at = rows[chosen + 1];
  return (
    <LineChart
      width={460}
      height={190}
      data={rows}
      margin={{ top: 12, right: 24, bottom: 18, left: 12 }}
      title="Exposure left after how many changes"
      onClick={({ activeTooltipIndex }) => {
        const index = Number(activeTooltipIndex);
        if (index > 0) onChoose(index - 1);
      }}
    >
      <CartesianGrid vertical={false} stroke="var(--hairline)" />
      <XAxis
        dataKey="changes"
        type="number"
        domain={[0, "dataMax"]}
        allowDecimals={false}
        tick={{ fill: "var(--second)", fontSize: 12 }}
        label={{ value: "changes", position: "insideBottom", offset: -10, fill: "var(--second)" }}
      />
      <YAxis
        domain={[0, "dataMax"]}
        tick={{ fill: "var(--second)", fontSize: 12 }}
        tickFormatter={(it: number) => it.toLocaleString("en")}
        width={58}
      />
      <Tooltip
        isAnimationActive={false}
        contentStyle={{
          background: "var(--panel)",
          border: "1px solid var(--hairline)",
          padding: "2px 8px",
          fontSize: 12,
        }}
        labelFormatter={(changes) => count(Number(changes), "change")}
        formatter={(value) => [Number(value).toLocaleString("en"), "exposure left"]}
      />
      <Line
        type="stepAfter"
        dataKey="exposure"
        stroke="var(--ink)"
        strokeWidth={1.5}
        isAnimationActive={false}
        dot={{ r: 3, fill: "var(--paper)", stroke: "var(--ink)" }}
      />
      {at && (
        <ReferenceDot x={at.changes} y={at.exposure} r={6} fill="var(--accent)" stroke="none" />
      )}
    </LineChart>
  );
}
