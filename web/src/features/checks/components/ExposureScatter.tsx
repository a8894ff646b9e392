import {
  CartesianGrid,
  LabelList,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from "recharts";
import { namedOf, tensAround, type Placed } from "../exposureChart";

interface Props {
  /** Those who stand out come first. */
  people: Placed[];
  /** How many stand out. */
  first: number;
  onOpen: (key: string) => void;
}

type Point = Placed & { label: string };

/** People by exposure (growing by tens) and the share of it that they don't use. */
export default function ExposureScatter({ people, first, onOpen }: Props) {
  const named = namedOf(people.slice(0, first));
  const points = people.map((it) => ({ ...it, label: named.has(it.key) ? it.name : "" }));
  const tens = tensAround(people.map((it) => it.exposure));
  const open = (point: { payload?: Point }) => point.payload && onOpen(point.payload.key);
  return (
    <ResponsiveContainer width="100%" height={430}>
      <ScatterChart
        margin={{ top: 16, right: 40, bottom: 26, left: 4 }}
        title="People by exposure and unused share"
      >
        <CartesianGrid stroke="var(--hairline)" />
        <XAxis
          dataKey="exposure"
          type="number"
          scale="log"
          domain={[tens[0] ?? 1, tens.at(-1) ?? 10]}
          ticks={tens}
          interval={0}
          tick={{ fill: "var(--second)", fontSize: 12 }}
          tickFormatter={(it: number) => it.toLocaleString("en")}
          label={{
            value: "exposure",
            position: "insideBottom",
            offset: -14,
            fill: "var(--second)",
          }}
        />
        <YAxis
          dataKey="share"
          type="number"
          domain={[0, 100]}
          unit=" %"
          width={58}
          tick={{ fill: "var(--second)", fontSize: 12 }}
          label={{ value: "unused", angle: -90, position: "insideLeft", fill: "var(--second)" }}
        />
        <Tooltip
          isAnimationActive={false}
          cursor={{ stroke: "var(--third)" }}
          content={({ payload }) => <Told point={payload[0]?.payload as Point | undefined} />}
        />
        <Scatter
          data={points.slice(first)}
          fill="transparent"
          stroke="var(--third)"
          isAnimationActive={false}
          onClick={open}
        />
        <Scatter
          data={points.slice(0, first)}
          fill="var(--accent)"
          stroke="var(--ink)"
          isAnimationActive={false}
          onClick={open}
        >
          <LabelList dataKey="label" position="bottom" fill="var(--ink)" fontSize={12} />
        </Scatter>
      </ScatterChart>
    </ResponsiveContainer>
  );
}

function Told({ point }: { point: Point | undefined }) {
  if (!point) return null;
  return (
    <div
      style={{
        background: "var(--panel)",
        border: "1px solid var(--hairline)",
        padding: "2px 8px",
        fontSize: 12,
      }}
    >
      <strong>{point.name}</strong>
      <br />
      exposure {point.exposure.toLocaleString("en")}, {point.share} % unused
    </div>
  );
}
