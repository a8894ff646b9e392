import { useId, useMemo } from "react";
import type { Schemas } from "@/shared/api/client";
import { CLASSES } from "@/shared/theme/theme";
import { drawing, halfOf, layOut } from "./mandala";
import styles from "./Mandala.module.css";

type Figure = Schemas["FigureView"];

/** What of a figure is used, and what of it is used or not observed. */
export interface Shares {
  used: Figure;
  kept: Figure;
}

interface Props {
  figure: Figure;
  shares: Shares;
  radius: number;
}

/** The parts of a petal that are not observed and not used, as paths; those used come first. */
interface Part {
  key: string;
  share: "unobserved" | "unused";
  path: string;
}

/** Lays out the parts of each petal side by side, by how many resources each has. */
export function partsOf({ figure, shares, radius }: Props): Part[] {
  return layOut(figure, radius).flatMap((sector) => {
    const petalsOf = (of: Figure) => of.sectors.find((it) => it.key === sector.key)?.petals ?? [];
    return CLASSES.flatMap((accessClass): Part[] => {
      const reachedIn = (of: Figure) =>
        petalsOf(of).find((it) => it.accessClass === accessClass)?.reached ?? 0;
      const petal = petalsOf(figure).find((it) => it.accessClass === accessClass);
      if (!petal || petal.reached === 0) return [];
      const { reached } = petal;
      const used = Math.min(reached, reachedIn(shares.used));
      const kept = Math.min(reached, Math.max(used, reachedIn(shares.kept)));
      const half = halfOf(reached, petal.applicable, sector.from, sector.to);
      const begin = (sector.from + sector.to) / 2 - half;
      const at = (many: number) => begin + (2 * half * many) / reached;
      const draw = drawing(accessClass, radius);
      const part = (share: Part["share"], from: number, to: number): Part[] =>
        to > from
          ? [{ key: `${sector.key} ${accessClass} ${share}`, share, path: draw(at(from), at(to)) }]
          : [];
      return [...part("unobserved", used, kept), ...part("unused", kept, reached)];
    });
  });
}

/** Stripes over what is not used, dots over what is not observed: both let the paper through. */
export function MandalaShares(props: Props) {
  const id = useId();
  const { figure, shares, radius } = props;
  const parts = useMemo(() => partsOf({ figure, shares, radius }), [figure, shares, radius]);
  return (
    <g className={styles["share"]}>
      <defs>
        <pattern
          id={`${id}unused`}
          width="4"
          height="4"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="2.6" height="4" fill="var(--paper)" />
        </pattern>
        <pattern id={`${id}unobserved`} width="5" height="5" patternUnits="userSpaceOnUse">
          <circle cx="2.5" cy="2.5" r="1.2" fill="var(--paper)" />
        </pattern>
      </defs>
      {parts.map((it) => (
        <path key={it.key} data-share={it.share} d={it.path} fill={`url(#${id}${it.share})`} />
      ))}
    </g>
  );
}
