import { useMutation, useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Outlook = Schemas["ErasureOutlook"];

const path = (key: string) => ({ params: { path: { key } } });

/** When somebody may be erased; fails where the viewer may not do that. */
export function useErasure(key: string, enabled: boolean) {
  return useQuery({
    enabled,
    retry: false,
    queryKey: ["erasure", key],
    queryFn: ({ signal }) =>
      answerOf(api.GET("/api/people/{key}/erasure", { ...path(key), signal })),
  });
}

/** Erases somebody; what is shown is not loaded again, for their page is gone with them. */
export function useErase(key: string) {
  return useMutation({
    mutationFn: (body: Schemas["ErasureOrder"]) =>
      answerOf(api.POST("/api/people/{key}/erasure", { ...path(key), body })),
  });
}
