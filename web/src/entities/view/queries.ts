import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type SavedView = Schemas["SavedView"];

const KEY = ["saved-views"];

export function useSavedViews(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: KEY,
    queryFn: () => answerOf(api.GET("/api/saved-views")),
  });
}

function useKept<T>(act: (it: T) => Promise<SavedView[]>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: (views) => queries.setQueryData(KEY, views),
  });
}

export function useSaveView() {
  return useKept((body: SavedView) => answerOf(api.PUT("/api/saved-views", { body })));
}

export function useForgetView() {
  return useKept(({ page, name }: { page: string; name: string }) =>
    answerOf(api.DELETE("/api/saved-views", { params: { query: { page, name } } })),
  );
}
