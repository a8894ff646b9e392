import type { ReactNode } from "react";
import { Empty } from "antd";
import styles from "./EmptyState.module.css";

interface Props {
  /** What is empty, where a heading helps. */
  title?: string;
  /** Why, and what to do next. */
  children: ReactNode;
  action?: ReactNode;
}

/** An empty, hidden or not yet asked state. */
export function EmptyState({ title, children, action }: Props) {
  return (
    <Empty
      className={styles["empty"] ?? ""}
      image={null}
      description={
        <>
          {title && <h2>{title}</h2>}
          <p>{children}</p>
        </>
      }
    >
      {action}
    </Empty>
  );
}
