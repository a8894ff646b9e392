import { useLocation, useNavigate } from "react-router";
import { pathOf, useAccount, useAccounts } from "@/entities/account/queries";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import styles from "./AccountSwitch.module.css";

/** The account one works in, as its path from the top; choosing another one keeps the page. */
export function AccountSwitch() {
  const accounts = useAccounts();
  const [account, choose] = useAccount();
  const navigate = useNavigate();
  const location = useLocation();
  if (!account) return <span className={styles["switch"]} />;
  const all = accounts.data?.accounts ?? [];
  const asked = new URLSearchParams(location.search).get("in") ?? account.key;
  const path = pathOf(all, all.some((it) => it.key === asked) ? asked : account.key);
  function pick(key: string) {
    choose(key);
    const params = new URLSearchParams(location.search);
    if (params.has("in")) {
      params.set("in", key);
      params.delete("area");
      void navigate({ search: params.toString() });
    }
  }
  return (
    <span className={styles["switch"]}>
      <InlinePicker
        label="Account"
        look="path"
        value={path.map((it, i) => (
          <span key={it.key} className={i < path.length - 1 ? styles["above"] : undefined}>
            {i === path.length - 1 ? <strong>{it.name}</strong> : `${it.name} / `}
          </span>
        ))}
        picker={(close) => (
          <Combobox
            label="Account to work in"
            value={account.key}
            options={all.map((it) => ({
              value: it.key,
              label: it.name,
              depth: it.depth,
              note: it.suspended ? "suspended" : it.sealed ? "sealed" : undefined,
            }))}
            onChoose={(key) => {
              pick(key);
              close();
            }}
          />
        )}
      />
    </span>
  );
}
