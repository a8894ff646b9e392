import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Who = Schemas["Who"];

export function useSession() {
  return useQuery({
    queryKey: ["session"],
    queryFn: () => answerOf(api.GET("/api/session")),
    staleTime: Infinity,
  });
}

/** The demo's people with their codes, reloaded since codes change. */
export function useDemoPeople(demo: boolean) {
  return useQuery({
    queryKey: ["demo-people"],
    queryFn: () => answerOf(api.GET("/api/demo/people")),
    enabled: demo,
    refetchInterval: 3_000,
    staleTime: 0,
  });
}

/** Signs in and reloads everything: somebody else may see other things. */
export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (attempt: Schemas["Attempt"]) =>
      answerOf(api.POST("/api/session", { body: attempt })),
    onSuccess: (state) => {
      queries.setQueryData(["session"], state);
      void queries.invalidateQueries({ predicate: (it) => it.queryKey[0] !== "session" });
    },
  });
}

export function useStepUp() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (code: string) =>
      answerOf(api.POST("/api/session/second-factor", { body: { code } })),
    onSuccess: (state) => {
      queries.setQueryData(["session"], state);
      void queries.invalidateQueries({ predicate: (it) => it.queryKey[0] !== "session" });
    },
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => answerOf(api.DELETE("/api/session")),
    onSettled: async () => {
      queries.clear();
      await queries.query({
        queryKey: ["session"],
        queryFn: () => answerOf(api.GET("/api/session")),
      });
      window.location.assign("/");
    },
  });
}
