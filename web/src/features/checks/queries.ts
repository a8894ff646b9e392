import { useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "../../api/client";

export type CheckedFinding = Schemas["CheckedFinding"];

/** The rules that do not hold, with one's open draft laid over. */
export function useChecks() {
  return useQuery({
    queryKey: ["checks"],
    queryFn: () => answerOf(api.GET("/api/checks", { params: { query: { draft: "open" } } })),
  });
}

/** What holds in an account and could be kept so. */
export function useProposals(account: string) {
  return useQuery({
    queryKey: ["checks", "proposals", account],
    queryFn: () => answerOf(api.GET("/api/checks/proposals", { params: { query: { account } } })),
    enabled: account !== "",
  });
}
