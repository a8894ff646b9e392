import type { AccessClass, Risk } from "@/shared/theme/theme";
import styles from "./VerdictMark.module.css";

export type MarkVerdict = "allowed" | "blocked" | "denied" | "none";

interface Props {
  verdict: MarkVerdict;
  accessClass: AccessClass;
  risk: Risk;
  /** How much of the place it holds on, 0 to 1; less than all is drawn narrower. */
  share?: number;
}

const PETAL = "M6 0.5C9.6 4 9.6 10 6 13.5C2.4 10 2.4 4 6 0.5Z";

/** A verdict by its shape: full petal, hollow petal with a notch, struck petal, dot. */
export function VerdictMark({ verdict, accessClass, risk, share = 1 }: Props) {
  const fill = `var(--${accessClass}-${risk})`;
  const width = Math.max(0.45, Math.sqrt(share));
  const narrow = `translate(6 0) scale(${width} 1) translate(-6 0)`;
  return (
    <svg className={styles["mark"]} width="12" height="14" viewBox="0 0 12 14" aria-hidden="true">
      {verdict === "allowed" && <path d={PETAL} fill={fill} transform={narrow} />}
      {verdict === "blocked" && (
        <path
          d="M4.6 1.6C1.6 5 2.4 10.500 6 13.200C9.600 10.500 10.400 5 7.400 1.600"
          fill="none"
          stroke={fill}
          strokeWidth="1.500"
          strokeLinecap="round"
        />
      )}
      {verdict === "denied" && (
        <>
          <path d={PETAL} fill={`var(--${accessClass}-low)`} opacity="0.75" />
          <path d="M1 11.500L11 2.500" stroke="var(--ink)" strokeWidth="1.600" />
        </>
      )}
      {verdict === "none" && <circle cx="6" cy="7" r="1.300" fill="var(--third)" opacity="0.55" />}
    </svg>
  );
}
