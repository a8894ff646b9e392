import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Source = Schemas["SourceView"];
export type Stranger = Schemas["StrangerView"];

const KEY = ["use-sources"];

/** Where use comes from. */
export function useSources(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: KEY,
    queryFn: () => answerOf(api.GET("/api/use/sources")),
  });
}

/** Names in records of a source that nobody knows. */
export function useStrangers(source: string) {
  return useQuery({
    queryKey: [...KEY, source, "strangers"],
    queryFn: () =>
      answerOf(api.GET("/api/use/sources/{key}/strangers", { params: { path: { key: source } } })),
  });
}

export function useKeepSource() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ key, ...body }: Schemas["SourceOrder"] & { key: string }) =>
      answerOf(api.PUT("/api/use/sources/{key}", { params: { path: { key } }, body })),
    onSuccess: () => queries.invalidateQueries(),
  });
}

/** Sets how long use is kept. */
export function useKeepUse() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["KeepOrder"]) => answerOf(api.PUT("/api/use/policy", { body })),
    onSuccess: () => queries.invalidateQueries(),
  });
}

export function useRemoveSource() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (key: string) =>
      answerOf(api.DELETE("/api/use/sources/{key}", { params: { path: { key } } })),
    onSuccess: () => queries.invalidateQueries(),
  });
}

/** Takes a file in as a batch of a source; the same file again adds nothing. */
export function useTakeUse() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ source, file }: { source: string; file: File }) => {
      const records = await file.text();
      return answerOf(
        api.POST("/api/use", {
          params: { query: { source, batch: `${file.name} (${file.size} bytes)` } },
          body: records as never,
          bodySerializer: () => records,
          headers: {
            "Content-Type": file.name.toLowerCase().endsWith(".csv")
              ? "text/csv"
              : "application/x-ndjson",
          },
        }),
      );
    },
    onSuccess: () => queries.invalidateQueries(),
  });
}
