import { lazy, Suspense, useMemo } from "react";
import type { Schemas } from "@/shared/api/client";
import { layOut, type Edges, type PetalShape, type SectorShape } from "./mandala";
import type { Shares } from "./MandalaShares";
import { count } from "@/shared/lib/words";
import styles from "./Mandala.module.css";

type Figure = Schemas["FigureView"];

const MandalaShares = lazy(async () => ({
  default: (await import("./MandalaShares")).MandalaShares,
}));

interface Props {
  figure: Figure;
  size: number;
  /** The name in the middle; without it the figure is a thumbprint. */
  centre?: string;
  /** Whether areas are named around it. A thumbprint never has names. */
  labels?: boolean;
  chosen?: string;
  onChoose?: (sector: string) => void;
  /** Differences from another figure, drawn as edges. */
  edges?: Edges;
  /** What of it is used: the rest is hatched, and dotted where nobody observes it. */
  shares?: Shares | undefined;
  label: string;
}

/** One person's whole access as a figure: a sector for each area, a ring for each class. */
export function Mandala({
  figure,
  size,
  centre,
  labels = true,
  chosen,
  onChoose,
  edges,
  shares,
  label,
}: Props) {
  const full = centre !== undefined;
  const radius = size / 2 - (full && labels ? 88 : 1);
  const shapes = useMemo(
    () => layOut(figure, radius, edges, shares?.used),
    [figure, radius, edges, shares],
  );
  const half = size / 2;
  return (
    <svg
      className={`${styles["mandala"] ?? ""} ${full ? "" : (styles["thumb"] ?? "")}`}
      data-figure={full ? "full" : "thumb"}
      width={size}
      height={size}
      viewBox={`${-half} ${-half} ${size} ${size}`}
      role={full ? "group" : "img"}
      aria-label={label}
    >
      {shapes.map((sector) => (
        <SectorPart
          key={sector.key}
          sector={sector}
          full={full}
          labels={full && labels}
          dim={chosen !== undefined && chosen !== sector.key}
          onChoose={onChoose}
        />
      ))}
      {shares && (
        <Suspense>
          <MandalaShares figure={figure} shares={shares} radius={radius} />
        </Suspense>
      )}
      <circle
        r={radius * (full ? (labels ? 0.205 : 0.235) : 0.16)}
        fill={full ? "var(--paper)" : "var(--ink)"}
        stroke={full ? "var(--ink)" : "none"}
      />
      {full && (
        <>
          <text className={styles["name"]} textAnchor="middle" y="-2">
            {centre}
          </text>
          <text className={styles["count"]} textAnchor="middle" y="13">
            {count(figure.rights, "right")}
          </text>
        </>
      )}
    </svg>
  );
}

interface SectorProps {
  sector: SectorShape;
  full: boolean;
  labels: boolean;
  dim: boolean;
  onChoose: ((sector: string) => void) | undefined;
}

function SectorPart({ sector, full, labels, dim, onChoose }: SectorProps) {
  const choose = onChoose && (() => onChoose(sector.key));
  return (
    <>
      <g
        className={`${styles["sector"] ?? ""} ${dim ? (styles["dim"] ?? "") : ""}`}
        data-sector={sector.key}
        {...(choose && {
          role: "button",
          tabIndex: 0,
          "aria-label": sector.description,
          onClick: choose,
          onKeyDown: (event) => {
            if (event.key === "Enter" || event.key === " ") {
              event.preventDefault();
              choose();
            }
          },
        })}
      >
        {full && <title>{sector.description}</title>}
        {sector.petals.map((petal) => (
          <PetalPart key={petal.accessClass} petal={petal} full={full} />
        ))}
      </g>
      {labels && (
        <text
          aria-hidden="true"
          className={`${styles["label"] ?? ""} ${sector.apart ? (styles["apart"] ?? "") : ""}`}
          x={sector.labelAt[0]}
          y={sector.labelAt[1]}
          textAnchor={sector.labelAnchor}
          dominantBaseline="middle"
        >
          {sector.lines.map((line, i) => (
            <tspan
              key={line}
              x={sector.labelAt[0]}
              dy={i === 0 ? (sector.lines.length - 1) * -7 : 14}
            >
              {line}
            </tspan>
          ))}
        </text>
      )}
    </>
  );
}

function PetalPart({ petal, full }: { petal: PetalShape; full: boolean }) {
  const tone = `var(--${petal.accessClass}-${petal.risk ?? "moderate"})`;
  return (
    <>
      <path d={petal.track} fill={`var(--${petal.accessClass}-track)`} />
      {petal.kind === "filled" && <path className={styles["petal"]} d={petal.body} fill={tone} />}
      {petal.kind === "hollow" && (
        <>
          <path d={petal.body} fill="var(--paper)" stroke={tone} strokeWidth={full ? 1.4 : 0.8} />
          <circle
            cx={petal.bead[0]}
            cy={petal.bead[1]}
            r={full ? 4 : 1.2}
            fill="var(--paper)"
            stroke={tone}
            strokeWidth={full ? 1.2 : 0.6}
          />
        </>
      )}
      {petal.sunken && <path className={styles["sunken"]} data-edge="sunken" d={petal.sunken} />}
      {petal.raised && <path className={styles["raised"]} data-edge="raised" d={petal.raised} />}
      {petal.struck && (
        <>
          <path d={petal.bar} stroke="var(--paper)" strokeWidth={full ? 4.5 : 2} />
          <path d={petal.bar} stroke="var(--ink)" strokeWidth={full ? 1.6 : 0.9} />
        </>
      )}
    </>
  );
}
