import type { AccessClass, Risk } from "@/shared/theme/theme";
import type { Schemas } from "@/shared/api/client";

interface Props {
  cell: Schemas["MatrixCell"] | undefined;
  accessClass: AccessClass;
  risk: Risk;
}

const PETAL = "M8 1.5C12 5.500 12 10.500 8 14.500C4 10.500 4 5.500 8 1.500Z";

/** A cell by shape: full petal for its own, ring for inherited, small ring for implied, struck for denied. */
export function CellMark({ cell, accessClass, risk }: Props) {
  const tone = `var(--${accessClass}-${risk})`;
  const dash = cell?.conditional ? "2 2" : undefined;
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
      {!cell && <circle cx="8" cy="8" r="1.2" fill="var(--third)" opacity="0.45" />}
      {cell?.way === "own" && <path d={PETAL} fill={tone} stroke={tone} strokeDasharray={dash} />}
      {cell?.way === "inherited" && (
        <path d={PETAL} fill="none" stroke={tone} strokeWidth="1.6" strokeDasharray={dash} />
      )}
      {cell?.way === "implied" && (
        <path
          d={PETAL}
          fill="none"
          stroke={tone}
          strokeWidth="2.4"
          strokeDasharray={dash}
          transform="translate(4 4) scale(0.5)"
        />
      )}
      {cell?.effect === "deny" && (
        <path d="M2 13L14 3" stroke="var(--ink)" strokeWidth="1.7" fill="none" />
      )}
      {cell?.sealedBy && (
        <path d="M2 8H14M8 2V14" stroke="var(--third)" strokeWidth="1.2" fill="none" />
      )}
    </svg>
  );
}
