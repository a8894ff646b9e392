import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Item = Schemas["ItemRow"];
export type ItemDetail = Schemas["ItemView"];
export type MyItems = Schemas["MyItems"];
export type Decision = Schemas["DecisionOrder"];
export type Effect = Schemas["DecisionEffect"];

const at = (round: number, item: number) => ({ params: { path: { round, item } } });

/** What the viewer decides in a round. */
export function useMyItems(round: number) {
  return useQuery({
    queryKey: ["review", round, "items"],
    queryFn: () => answerOf(api.GET("/api/reviews/{round}/items", { params: { path: { round } } })),
  });
}

/** An item with the evidence for a decision. */
export function useItem(round: number, item: number | undefined) {
  return useQuery({
    queryKey: ["review", round, "item", item],
    queryFn: () => answerOf(api.GET("/api/reviews/{round}/items/{item}", at(round, item ?? 0))),
    enabled: item !== undefined,
  });
}

/** What the viewer's decisions do together. */
export function useEffectOf(round: number, enabled: boolean) {
  return useQuery({
    queryKey: ["review", round, "effect"],
    queryFn: () =>
      answerOf(api.GET("/api/reviews/{round}/effect", { params: { path: { round } } })),
    enabled,
  });
}

/** The decisions of reviews that a revision carried out. */
export function useDecisionsOf(revision: number) {
  return useQuery({
    queryKey: ["reviews", "revision", revision],
    queryFn: () =>
      answerOf(api.GET("/api/reviews/revisions/{revision}", { params: { path: { revision } } })),
  });
}

function useAct<T, R>(round: number, act: (it: T) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ["review", round] }),
        queries.invalidateQueries({ queryKey: ["reviews"] }),
      ]),
  });
}

export function useDecide(round: number) {
  return useAct(round, ({ item, body }: { item: number; body: Decision }) =>
    answerOf(api.PUT("/api/reviews/{round}/items/{item}/decision", { ...at(round, item), body })),
  );
}

/** Takes back a decision that counts and is not in force. */
export function useTakeBack(round: number) {
  return useAct(round, (item: number) =>
    answerOf(api.DELETE("/api/reviews/{round}/items/{item}/effect", at(round, item))),
  );
}

export function useUndo(round: number) {
  return useAct(round, (item: number) =>
    answerOf(api.DELETE("/api/reviews/{round}/items/{item}/decision", at(round, item))),
  );
}

export function useKeepAlike(round: number) {
  return useAct(round, (body: Schemas["AlikeOrder"]) =>
    answerOf(api.POST("/api/reviews/{round}/keep", { params: { path: { round } }, body })),
  );
}

export function usePass(round: number) {
  return useAct(round, ({ item, body }: { item: number; body: Schemas["PassOrder"] }) =>
    answerOf(api.POST("/api/reviews/{round}/items/{item}/pass", { ...at(round, item), body })),
  );
}

/** Asks whoever has an item, or says something of it. */
export function useSay(round: number) {
  return useAct(round, ({ item, said, ask }: { item: number; said: string; ask: boolean }) => {
    const order = { ...at(round, item), body: { said } };
    return answerOf(
      ask
        ? api.POST("/api/reviews/{round}/items/{item}/ask", order)
        : api.POST("/api/reviews/{round}/items/{item}/comment", order),
    );
  });
}

export function useAnswerFor(round: number) {
  return useAct(round, (body: Schemas["ExpectationAnswer"]) =>
    answerOf(api.POST("/api/reviews/{round}/answers", { params: { path: { round } }, body })),
  );
}

export function useFinish(round: number) {
  return useAct(round, () =>
    answerOf(api.POST("/api/reviews/{round}/finish", { params: { path: { round } } })),
  );
}
