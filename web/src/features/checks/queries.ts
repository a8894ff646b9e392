import { useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type CheckedFinding = Schemas["CheckedFinding"];
export type Proposal = NonNullable<ReturnType<typeof useProposals>["data"]>[number];

/** The violated rules, with the viewer's open draft applied. */
export function useChecks() {
  return useQuery({
    queryKey: ["checks"],
    queryFn: () => answerOf(api.GET("/api/checks", { params: { query: { draft: "open" } } })),
  });
}

/** What is true in an account and could become an expectation. */
export function useProposals(account: string) {
  return useQuery({
    queryKey: ["checks", "proposals", account],
    queryFn: () => answerOf(api.GET("/api/checks/proposals", { params: { query: { account } } })),
    enabled: account !== "",
  });
}
