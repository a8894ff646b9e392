import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api } from "@/shared/api/client";

export type Filter = Partial<
  Record<"who" | "act" | "kind" | "thing" | "place" | "text" | "from" | "until", string>
> & { revision?: number };

export function useTrail(filter: Filter, limit: number) {
  return useQuery({
    queryKey: ["trail", filter, limit],
    queryFn: () => answerOf(api.GET("/api/trail", { params: { query: { ...filter, limit } } })),
    placeholderData: keepPreviousData,
  });
}

/** The last revisions, for those who can read an account: others would only record a refusal. */
export function useRevisions(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["revisions"],
    queryFn: () => answerOf(api.GET("/api/revisions", { params: { query: { limit: 60 } } })),
  });
}

/** One revision with its changes, as far as the viewer may read them. */
export function useRevision(number: number) {
  return useQuery({
    queryKey: ["revision", number],
    queryFn: () => answerOf(api.GET("/api/revisions/{number}", { params: { path: { number } } })),
  });
}

/** Begins an export: a job. */
export function useExport() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (order: { format: string; filter: Filter }) =>
      answerOf(api.POST("/api/trail/exports", { body: order })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}
