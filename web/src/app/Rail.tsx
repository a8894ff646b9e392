import { NavLink, useLocation } from "react-router";
import { useAccounts } from "@/entities/account/queries";
import styles from "./Rail.module.css";

const ENTRIES: { to: string; label: string; also?: string; people?: boolean; low?: boolean }[] = [
  { to: "/people", label: "People", also: "/groups", people: true },
  { to: "/rights", label: "Rights", people: true },
  { to: "/places", label: "Places", people: true },
  { to: "/ask", label: "Ask", also: "/side" },
  { to: "/checks", label: "Checks", people: true },
  { to: "/reviews", label: "Reviews" },
  { to: "/trail", label: "Trail" },
  { to: "/settings", label: "Settings", people: true, low: true },
  { to: "/you", label: "You" },
];

/** The main navigation: only what the person's access allows. */
export function Rail() {
  const accounts = useAccounts();
  const { pathname } = useLocation();
  const shown = ENTRIES.filter((it) => !it.people || accounts.data?.people);
  const lowest = shown.find((it) => it.low) ?? shown.at(-1);
  return (
    <nav className={`${styles["rail"] ?? ""} no-print`} aria-label="Main">
      <NavLink to="/ask" className={styles["home"] ?? ""} aria-label="Mandala, home">
        <img src="/mark.svg" alt="" width="34" height="34" />
      </NavLink>
      {shown.map((it) => (
        <NavLink
          key={it.to}
          to={it.to}
          data-active={
            pathname.startsWith(it.to) || (it.also !== undefined && pathname.startsWith(it.also))
          }
          className={`${styles["entry"] ?? ""} ${it === lowest ? (styles["low"] ?? "") : ""}`}
        >
          {it.label}
        </NavLink>
      ))}
    </nav>
  );
}
