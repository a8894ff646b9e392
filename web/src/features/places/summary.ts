import { useQuery } from "@tanstack/react-query";
import { useDraftAct } from "@/entities/draft/queries";
import { answerOf, api, type Schemas } from "@/shared/api/client";

/** How many of a role's seats are used, in words. */
export function seatsInWords({ used, least, most }: Schemas["RoleSeats"]): string {
  const limits = [
    least !== undefined && `at least ${least}`,
    most !== undefined && `at most ${most}`,
  ].filter(Boolean);
  if (used === undefined) return `${limits.join(", ")}; you can't see all holders`;
  if (most !== undefined && used <= most && (least === undefined || used >= least)) {
    return `${used} of ${most} used, ${most - used} free`;
  }
  return `${used} used, ${limits.join(", ")}`;
}

/** A key made of the name of a field. */
export function keyOf(label: string): string {
  return label
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^[^a-z]+|-$/g, "")
    .slice(0, 40);
}

/** Who belongs to an account. */
export function useAccountSummary(account: string) {
  return useQuery({
    queryKey: ["accounts", account, "summary"],
    queryFn: () =>
      answerOf(api.GET("/api/accounts/{account}/summary", { params: { path: { account } } })),
    retry: false,
  });
}

/** Hands ownership from one person to another, in the open draft. */
export function useHandOver(account: string) {
  return useDraftAct((body: Schemas["OwnerOrder"]) =>
    answerOf(api.POST("/api/accounts/{account}/owner", { params: { path: { account } }, body })),
  );
}

/** Makes an account like one, in the open draft. */
export function useCopyAccount(account: string) {
  return useDraftAct((body: Schemas["AccountCopyOrder"]) =>
    answerOf(api.POST("/api/accounts/{account}/copies", { params: { path: { account } }, body })),
  );
}
