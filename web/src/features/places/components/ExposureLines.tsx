import { useState } from "react";
import { CartesianGrid, Line, LineChart, Tooltip, XAxis, YAxis } from "recharts";
import { dayOf } from "@/shared/lib/words";
import type { ExposureDay } from "../figures";
import { timeline } from "../timeline";

interface Props {
  days: ExposureDay[];
}

const tick = { fill: "var(--second)", fontSize: 12 };

/** Exposure and the part of it that is not used, as steps over time, until today. */
export default function ExposureLines({ days }: Props) {
  const [now] = useState(() => Date.now());
  const points = timeline(days, now);
  return (
    <LineChart
      width={720}
      height={210}
      data={points}
      style={{ maxWidth: "100%" }}
      margin={{ top: 8, right: 24, bottom: 4, left: 8 }}
      title="Exposure over time"
    >
      <CartesianGrid vertical={false} stroke="var(--hairline)" />
      <XAxis
        dataKey="time"
        type="number"
        scale="time"
        domain={["dataMin", "dataMax"]}
        tick={tick}
        tickFormatter={(time: number) => dayOf(new Date(time).toISOString().slice(0, 10))}
        minTickGap={40}
      />
      <YAxis
        domain={[0, "auto"]}
        width={64}
        tick={tick}
        tickFormatter={(it: number) => it.toLocaleString("en")}
      />
      <Tooltip
        isAnimationActive={false}
        cursor={{ stroke: "var(--third)" }}
        contentStyle={{
          background: "var(--panel)",
          border: "1px solid var(--hairline)",
          padding: "2px 8px",
          fontSize: 12,
        }}
        labelFormatter={(time) => dayOf(new Date(Number(time)).toISOString().slice(0, 10))}
        formatter={(value, name) => [Number(value).toLocaleString("en"), name]}
      />
      <Line
        name="Exposure"
        type="stepAfter"
        dataKey="exposure"
        stroke="var(--ink)"
        strokeWidth={1.5}
        dot={false}
        isAnimationActive={false}
      />
      <Line
        name="Not used"
        type="stepAfter"
        dataKey="unused"
        stroke="var(--accent)"
        strokeWidth={1.5}
        strokeDasharray="5 3"
        dot={false}
        isAnimationActive={false}
      />
    </LineChart>
  );
}
