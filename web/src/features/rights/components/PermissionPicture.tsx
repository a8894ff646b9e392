import { useMemo } from "react";
import type { ThingView } from "@/entities/thing/queries";
import { picture } from "../model";
import styles from "./PermissionPicture.module.css";

const WIDE = 190;
const HIGH = 26;

interface Props {
  permissions: ThingView[];
  names: Map<string, string>;
}

/** Which permission implies which, and the gates each needs. */
export function PermissionPicture({ permissions, names }: Props) {
  const { spots, arrows, columns, rows } = useMemo(
    () => picture(permissions, names),
    [permissions, names],
  );
  const x = (column: number) => 8 + column * (WIDE + 40);
  const y = (row: number) => 8 + row * HIGH;
  return (
    <figure className={styles["picture"]}>
      <svg
        width={columns * (WIDE + 40)}
        height={rows * HIGH + 16}
        role="img"
        aria-label="Which permission implies which, and the gates each needs"
      >
        {arrows.map((it, i) => {
          const fromX = x(it.from.column);
          const toX = x(it.to.column) + WIDE;
          const fromY = y(it.from.row) + HIGH / 2;
          const toY = y(it.to.row) + HIGH / 2;
          const bend = (fromX + toX) / 2;
          return (
            <path
              key={i}
              d={`M${fromX} ${fromY}C${bend} ${fromY} ${bend} ${toY} ${toX} ${toY}`}
              className={styles[it.kind]}
            />
          );
        })}
        {spots.map((it) => (
          <g key={it.key} transform={`translate(${x(it.column)} ${y(it.row)})`}>
            <rect width={WIDE} height={HIGH - 5} rx={3} />
            <text x={8} y={15}>
              {it.name.length > 28 ? it.name.slice(0, 27) + "…" : it.name}
            </text>
          </g>
        ))}
      </svg>
      <figcaption className="note">
        solid line: implies the permission to its left · dotted line: needs it as a gate
      </figcaption>
    </figure>
  );
}
