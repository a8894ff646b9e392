import { useQuery } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type AccountView = Schemas["AccountView"];

export function useAccounts() {
  return useQuery({
    queryKey: ["accounts"],
    queryFn: () => answerOf(api.GET("/api/accounts")),
    staleTime: 60_000,
  });
}

/** What an account had on each day of the last month. */
export function useFigures(account: string) {
  return useQuery({
    queryKey: ["figures", account],
    queryFn: () =>
      answerOf(api.GET("/api/accounts/{key}/figures", { params: { path: { key: account } } })),
    staleTime: 60_000,
  });
}

/** How exposed those at home in an account were over time. */
export function useAccountExposure(account: string) {
  return useQuery({
    queryKey: ["figures", account, "exposure"],
    queryFn: () =>
      answerOf(
        api.GET("/api/accounts/{key}/figures/exposure", { params: { path: { key: account } } }),
      ),
    staleTime: 60_000,
  });
}

const listeners = new Set<() => void>();
const KEPT = "mandala.account";

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** The account one works in, kept in this browser; at first, the first readable one. */
export function useAccount(): [AccountView | undefined, (key: string) => void] {
  const accounts = useAccounts();
  const kept = useSyncExternalStore(subscribe, () => localStorage.getItem(KEPT));
  const all = accounts.data?.accounts ?? [];
  const current = all.find((it) => it.key === kept) ?? all.find((it) => it.readable) ?? all.at(0);
  return [
    current,
    (key) => {
      localStorage.setItem(KEPT, key);
      listeners.forEach((listener) => listener());
    },
  ];
}

/** Whether the viewer has a permission over the model on an account, else on any account. */
export function useMay(permission: string, account?: string): boolean {
  const accounts = useAccounts();
  return (accounts.data?.accounts ?? []).some(
    (it) => (!account || it.key === account) && it.may.includes(permission),
  );
}

/** Whether the viewer may ask about the access of all at home in an account, whichever. */
export function useAsks(): boolean {
  return (useAccounts().data?.accounts ?? []).some((it) => it.asks);
}

/** Permissions with which a draft can be applied, as far as it names what they cover. */
const CHANGING = [
  "mandala.access.assign",
  "mandala.account.manage",
  "mandala.bridge.manage",
  "mandala.groups.manage",
  "mandala.people.manage",
  "mandala.places.manage",
  "mandala.rights.define",
];

/** Whether the viewer may change anything of the model, if so far as is known; else they propose. */
export function useMayChange(): boolean {
  const { data } = useAccounts();
  return !data || data.accounts.some((it) => it.may.some((may) => CHANGING.includes(may)));
}

/** The name of an account; its key where the viewer does not see the account. */
export function useAccountName(key: string | undefined): string {
  const accounts = useAccounts();
  return accounts.data?.accounts.find((it) => it.key === key)?.name ?? key ?? "";
}

/** The accounts from the root down to one. */
export function pathOf(accounts: AccountView[], key: string): AccountView[] {
  const path: AccountView[] = [];
  for (
    let at = accounts.find((it) => it.key === key);
    at;
    at = accounts.find((it) => it.key === at.parent)
  ) {
    path.unshift(at);
  }
  return path;
}

/** Names of accounts by key; the key where the viewer does not see the account. */
export function useAccountNames(): (key: string) => string {
  const accounts = useAccounts();
  const names = new Map((accounts.data?.accounts ?? []).map((it) => [it.key, it.name]));
  return (key) => names.get(key) ?? key;
}

/** Where a role or set belongs: an account, all accounts, or to what Mandala itself brings. */
export function ownerOf(
  it: { supplied: boolean; account?: string },
  nameOf: (key: string) => string,
): string {
  if (it.supplied) return "supplied";
  return it.account === undefined ? "all accounts" : nameOf(it.account);
}
