import { Skeleton } from "antd";
import styles from "./Loading.module.css";

/** Holds the place of something that is loading; shown after a moment, so that fast answers do not flicker. */
export function Loading({ what, rows = 6 }: { what: string; rows?: number }) {
  return (
    <div className={styles["loading"]} role="status" aria-busy="true">
      <span className="hidden-text">Loading {what}…</span>
      <Skeleton active title={false} paragraph={{ rows }} />
    </div>
  );
}
