import { Line, LineChart, Tooltip, XAxis, YAxis } from "recharts";
import { around } from "@/shared/lib/figures";
import { dayOf } from "@/shared/lib/words";

interface Props {
  label: string;
  days: { day: string; value: number }[];
}

/** A figure over time as a line; days without one are gaps. Arrow keys go from day to day. */
export default function LineFigure({ label, days }: Props) {
  return (
    <LineChart
      width={136}
      height={40}
      data={days}
      margin={{ top: 6, right: 4, bottom: 4, left: 4 }}
      title={`${label} over the last month`}
    >
      <XAxis dataKey="day" hide />
      <YAxis hide domain={around(days.map((it) => it.value))} />
      <Tooltip
        isAnimationActive={false}
        cursor={{ stroke: "var(--third)" }}
        wrapperStyle={{ zIndex: 2 }}
        contentStyle={{
          background: "var(--panel)",
          border: "1px solid var(--hairline)",
          padding: "2px 8px",
          fontSize: 12,
        }}
        labelFormatter={(day) => (typeof day === "string" ? dayOf(day) : "")}
        formatter={(value) => [String(value), label]}
      />
      <Line
        type="stepAfter"
        dataKey="value"
        stroke="var(--ink)"
        strokeWidth={1.5}
        dot={days.length === 1}
        isAnimationActive={false}
      />
    </LineChart>
  );
}
