import type { ReactNode } from "react";
import styles from "./Cover.module.css";

interface Props {
  title: string;
  subtitle: string;
  children: ReactNode;
}

/** The page before one is signed in. */
export function Cover({ title, subtitle, children }: Props) {
  return (
    <main className={styles["page"]}>
      <header>
        <img src="/mark.svg" alt="" width="72" height="72" />
        <div>
          <h1>{title}</h1>
          <p>{subtitle}</p>
        </div>
      </header>
      {children}
    </main>
  );
}
