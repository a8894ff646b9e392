import { Fragment, type ReactNode } from "react";
import { Breadcrumb } from "antd";
import { Link } from "react-router";
import styles from "./PageHead.module.css";

interface Props {
  /** The way here, from the top; the last may have no page. */
  path?: { name: string; to?: string }[];
  /** A figure beside title, facts and buttons. */
  figure?: ReactNode;
  title: ReactNode;
  /** Facts in one line below the title; empty ones are left out. */
  facts?: ReactNode[];
  /** Buttons. */
  actions?: ReactNode;
  children?: ReactNode;
}

/** The head of a thing's page. */
export function PageHead({ path, figure, title, facts = [], actions, children }: Props) {
  const shown = facts.filter((it) => it !== undefined && it !== false && it !== "" && it !== null);
  return (
    <header className={styles["head"]}>
      {path && path.length > 0 && (
        <Breadcrumb
          items={path.map((it) => ({ title: it.to ? <Link to={it.to}>{it.name}</Link> : it.name }))}
        />
      )}
      <div className={figure ? styles["beside"] : undefined}>
        {figure}
        <div>
          <h1>{title}</h1>
          {shown.length > 0 && (
            <p className={styles["facts"]}>
              {shown.map((it, i) => (
                <Fragment key={i}>
                  {i > 0 && " · "}
                  {it}
                </Fragment>
              ))}
            </p>
          )}
          {actions && <div className="acts">{actions}</div>}
        </div>
      </div>
      {children}
    </header>
  );
}
