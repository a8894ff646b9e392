import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type CheckedFinding = Schemas["CheckedFinding"];
export type Finding = Schemas["FindingRow"];
export type FindingList = Schemas["FindingList"];
export type Remedy = Schemas["RemedyView"];
export type Proposal = NonNullable<ReturnType<typeof useProposals>["data"]>[number];

/** How many findings one call brings. */
const PAGE = 200;

/** What the list is narrowed to; the names of the call. */
export type FindingFilter = Partial<
  Record<"harm" | "detector" | "risk" | "account" | "owner" | "state" | "text" | "order", string>
>;

/** The findings that pass a filter, page by page. */
export function useFindings(filter: FindingFilter) {
  return useInfiniteQuery({
    queryKey: ["findings", filter],
    queryFn: ({ pageParam, signal }) =>
      answerOf(
        api.GET("/api/findings", {
          params: { query: { ...filter, skip: pageParam, most: PAGE } },
          signal,
        }),
      ),
    initialPageParam: 0,
    getNextPageParam: (last, all) => {
      const read = all.reduce((sum, it) => sum + it.findings.length, 0);
      return read < last.total && last.findings.length > 0 ? read : undefined;
    },
    placeholderData: keepPreviousData,
    // until detectors have looked for the first time
    refetchInterval: (query) => (query.state.data?.pages[0]?.lookedAt ? false : 5_000),
  });
}

/** A finding with what settles it. */
export function useFinding(id: string) {
  return useQuery({
    queryKey: ["finding", id],
    queryFn: () => answerOf(api.GET("/api/findings/one", { params: { query: { id } } })),
  });
}

function useFindingAct<T, R>(act: (it: T) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () =>
      queries.invalidateQueries({
        predicate: (it) => it.queryKey[0] === "findings" || it.queryKey[0] === "finding",
      }),
  });
}

export function useAcceptFindings() {
  return useFindingAct((body: Schemas["AcceptanceOrder"]) =>
    answerOf(api.POST("/api/findings/accept", { body })),
  );
}

export function useReopenFindings() {
  return useFindingAct((ids: string[]) =>
    answerOf(api.POST("/api/findings/reopen", { body: { ids } })),
  );
}

export function useOwnFindings() {
  return useFindingAct((body: Schemas["OwnershipOrder"]) =>
    answerOf(api.POST("/api/findings/owner", { body })),
  );
}

/** Remembers in which draft a remedy is. */
export function useDrafted() {
  return useFindingAct((body: Schemas["DraftedOrder"]) =>
    answerOf(api.POST("/api/findings/drafted", { body })),
  );
}

/** People of an account by the exposure that they don't use. */
export function useExposedPeople(account: string) {
  return useQuery({
    queryKey: ["exposure", account],
    queryFn: () =>
      answerOf(api.GET("/api/exposure", { params: { query: account ? { account } : {} } })),
    refetchInterval: (query) => (query.state.data?.countedAt ? false : 5_000),
  });
}

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
