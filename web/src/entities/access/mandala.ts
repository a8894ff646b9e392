import { arc } from "d3-shape";
import { CLASSES, type AccessClass, type Risk } from "@/shared/theme/theme";
import type { Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";

type Figure = Schemas["FigureView"];
type Petal = Schemas["Petal"];

export interface PetalShape {
  accessClass: AccessClass;
  kind: "empty" | "filled" | "hollow";
  risk: Risk | undefined;
  struck: boolean;
  track: string;
  body: string;
  bar: string;
  bead: [number, number];
  /** Outlines of what is added and of what is removed here; empty where nothing is. */
  raised: string;
  sunken: string;
}

/** Differences to draw into a figure: what only this side has, and what it lacks. */
export interface Edges {
  raised?: Figure | null;
  sunken?: Figure | null;
}

export interface SectorShape {
  key: string;
  /** The name on one line or, with its account, on two. */
  lines: string[];
  /** Set apart from the account's own areas: a sub-account, or reached over a bridge. */
  apart: boolean;
  /** From and to, in radians clockwise from the top. */
  from: number;
  to: number;
  labelAt: [number, number];
  labelAnchor: "start" | "middle" | "end";
  /** Its figures in words, for those who do not see it. */
  description: string;
  petals: PetalShape[];
}

/** Inner and outer edges of the rings, as shares of the radius: view, change, administer. */
const RINGS: Record<AccessClass, [number, number]> = {
  view: [0.245, 0.505],
  change: [0.53, 0.765],
  administer: [0.79, 1],
};
const PAD = 0.022;
const GAP = 0.16;

/**
 * Lays a figure out. Angles depend on the areas alone (the square root of their size, with a gap
 * before what is set apart), so that everyone in an account has the same areas at the same angles.
 * A petal's width within its sector is the square root of the share of the area that it covers.
 */
export function layOut(
  figure: Figure,
  radius: number,
  edges: Edges = {},
  used?: Figure,
): SectorShape[] {
  const sectors = figure.sectors;
  const weights = sectors.map((sector) => Math.sqrt(sector.size));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  const apart = sectors.map((sector) => sector.account || sector.door);
  const gaps = sectors.filter((_, i) => apart[i] && !apart[i - 1]).length;
  const room = 2 * Math.PI - (gaps > 0 ? gaps + 1 : 0) * GAP;
  const smallest = Math.min(0.12, room / Math.max(1, sectors.length));
  const spread = room - smallest * sectors.length;
  let angle = gaps > 0 ? GAP / 2 : 0;
  const shapes = sectors.map((sector, i): SectorShape => {
    if (apart[i] && !apart[i - 1]) angle += GAP;
    const from = angle;
    const to = from + smallest + (spread * (weights[i] ?? 0)) / (total || 1);
    angle = to;
    const middle = (from + to) / 2;
    const at = radius + 13;
    const x = Math.sin(middle) * at;
    const y = -Math.cos(middle) * at;
    return {
      key: sector.key,
      lines: sector.name.split(" · ").map(short),
      apart: apart[i] ?? false,
      from,
      to,
      labelAt: [x, y] as [number, number],
      labelAnchor: Math.abs(x) < radius * 0.25 ? "middle" : x > 0 ? "start" : "end",
      description: describe(sector.name, sector.petals, used && petalsIn(used, sector.key)),
      petals: CLASSES.map((accessClass) => {
        const petalOf = (of: Figure | null | undefined) =>
          of?.sectors
            .find((it) => it.key === sector.key)
            ?.petals.find((petal) => petal.accessClass === accessClass);
        return {
          ...petalShape(accessClass, petalOf(figure), from, to, radius),
          raised: outline(accessClass, petalOf(edges.raised), from, to, radius),
          sunken: outline(accessClass, petalOf(edges.sunken), from, to, radius),
        };
      }),
    };
  });
  spreadLabels(shapes);
  return shapes;
}

const LINE = 13;

/** Moves labels of one side down or up, away from the top, so that none covers another. */
function spreadLabels(shapes: SectorShape[]) {
  for (const right of [true, false]) {
    for (const upper of [true, false]) {
      const side = shapes
        .filter((it) => it.labelAt[0] >= 0 === right && it.labelAt[1] < 0 === upper)
        .sort((a, b) => Math.abs(b.labelAt[1]) - Math.abs(a.labelAt[1]));
      let free = Infinity;
      for (const shape of side) {
        const away = Math.min(Math.abs(shape.labelAt[1]), free);
        shape.labelAt[1] = upper ? -away : away;
        free = away - LINE * shape.lines.length;
      }
    }
  }
}

function short(name: string): string {
  return name.length > 22 ? name.slice(0, 21) + "…" : name;
}

function petalsIn(figure: Figure, key: string): Petal[] {
  return figure.sectors.find((it) => it.key === key)?.petals ?? [];
}

function describe(name: string, petals: Petal[], used?: Petal[]): string {
  const parts = petals
    .filter((petal) => petal.reached + petal.blocked + petal.denied > 0)
    .map((petal) => {
      const words = [`${petal.accessClass} ${petal.reached} of ${petal.applicable}`];
      if (used) {
        const some = used.find((it) => it.accessClass === petal.accessClass)?.reached ?? 0;
        words.push(`${some} used`);
      }
      if (petal.risk) words.push(`up to ${petal.risk} risk`);
      if (petal.blocked)
        words.push(`${count(petal.blocked, "resource")} blocked by a missing gate`);
      if (petal.denied) words.push(`${count(petal.denied, "resource")} denied`);
      return words.join(", ");
    });
  return `${name}: ${parts.length > 0 ? parts.join("; ") : "no access"}`;
}

export function drawing(accessClass: AccessClass, radius: number) {
  const [inner, outer] = RINGS[accessClass];
  return (start: number, end: number) =>
    arc().cornerRadius(radius * 0.045)({
      innerRadius: inner * radius,
      outerRadius: outer * radius,
      startAngle: start,
      endAngle: end,
      padAngle: 0,
    }) ?? "";
}

/** Half the angle of a petal that covers `some` of `all`, by the square root of its share. */
export function halfOf(some: number, all: number, from: number, to: number): number {
  const share = Math.sqrt(some / Math.max(1, all));
  return Math.max(0.03, ((to - from - PAD) / 2) * Math.min(1, share));
}

/** The outline of a petal in a figure of differences. */
function outline(
  accessClass: AccessClass,
  petal: Petal | undefined,
  from: number,
  to: number,
  radius: number,
): string {
  if (!petal || petal.reached === 0) return "";
  const half = halfOf(petal.reached, petal.applicable, from, to);
  const middle = (from + to) / 2;
  return drawing(accessClass, radius)(middle - half, middle + half);
}

function petalShape(
  accessClass: AccessClass,
  petal: Petal | undefined,
  from: number,
  to: number,
  radius: number,
): Omit<PetalShape, "raised" | "sunken"> {
  const [inner, outer] = RINGS[accessClass];
  const draw = drawing(accessClass, radius);
  const reached = petal?.reached ?? 0;
  const hollow = reached === 0 ? (petal?.blocked ?? 0) || (petal?.denied ?? 0) : 0;
  const middle = (from + to) / 2;
  const half = halfOf(reached || hollow, petal?.applicable ?? 1, from, to);
  const point = (angle: number, at: number): [number, number] => [
    Math.sin(angle) * at * radius,
    -Math.cos(angle) * at * radius,
  ];
  const slant = Math.min(half, 0.05);
  const [x1, y1] = point(middle - slant, inner - 0.01);
  const [x2, y2] = point(middle + slant, outer + 0.01);
  return {
    accessClass,
    kind: reached > 0 ? "filled" : (petal?.blocked ?? 0) > 0 ? "hollow" : "empty",
    risk: petal?.risk as Risk | undefined,
    struck: (petal?.denied ?? 0) > 0,
    track: draw(from + PAD / 2, to - PAD / 2),
    body: draw(middle - half, middle + half),
    bar: `M${x1} ${y1}L${x2} ${y2}`,
    bead: point(middle, outer - 0.02),
  };
}
