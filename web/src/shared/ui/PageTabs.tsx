import type { ReactNode } from "react";
import { Tabs } from "antd";
import { useLocation, useNavigate } from "react-router";
import styles from "./PageTabs.module.css";

export interface PageTab {
  to: string;
  label: string;
  /** What the tab's page is opened with, from the `?` on. */
  search?: string;
}

interface Props {
  label: string;
  tabs: PageTab[];
  /** The tab in view, where the address alone does not say. */
  active?: string;
  /** What stands beside the tabs, such as a filter. */
  extra?: ReactNode;
  /** Whether the page has no title of its own. */
  titled?: boolean;
}

/** Tabs of one area, each a page with its own address. */
export function PageTabs({ label, tabs, active, extra, titled }: Props) {
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const found =
    tabs.find((it) => it.to === pathname) ?? tabs.find((it) => pathname.startsWith(it.to + "/"));
  return (
    <nav aria-label={label} className={styles["bar"]}>
      {titled && <h1 className="hidden-text">{label}</h1>}
      <Tabs
        className={styles["tabs"]}
        activeKey={active ?? found?.to ?? tabs[0]?.to ?? ""}
        items={tabs.map((it) => ({ key: it.to, label: it.label }))}
        onChange={(to) => void navigate(to + (tabs.find((it) => it.to === to)?.search ?? ""))}
      />
      {extra}
    </nav>
  );
}
