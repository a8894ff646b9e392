import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type AskedAbout = Schemas["AskedView"];

/** What reviewers ask the viewer. */
export function useQuestions() {
  return useQuery({ queryKey: ["reviews"], queryFn: () => answerOf(api.GET("/api/reviews")) });
}

export function useAnswer() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ round, item, said }: { round: number; item: number; said: string }) =>
      answerOf(
        api.POST("/api/reviews/{round}/items/{item}/answer", {
          params: { path: { round, item } },
          body: { said },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ["reviews"] }),
  });
}

/** Who decides for the viewer while they are away. */
export function useDeputy() {
  return useQuery({
    queryKey: ["deputy"],
    queryFn: () => answerOf(api.GET("/api/reviews/deputy")),
  });
}

function useDeputyAct<T = null>(act: (it: T) => Promise<Schemas["MyDeputy"]>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () => queries.invalidateQueries({ queryKey: ["deputy"] }),
  });
}

export function useNameDeputy() {
  return useDeputyAct((body: Schemas["DeputyOrder"]) =>
    answerOf(api.PUT("/api/reviews/deputy", { body })),
  );
}

export function useEndDeputy() {
  return useDeputyAct(() => answerOf(api.DELETE("/api/reviews/deputy")));
}
