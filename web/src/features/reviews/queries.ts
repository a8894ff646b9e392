import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type RoundOrder = Schemas["RoundOrder"];
export type Round = Schemas["RoundView"];
export type RoundDetail = Schemas["RoundDetail"];
export type Reviewer = Schemas["ReviewerView"];
export type EventRule = Schemas["EventRule"];
export type KeptRule = Schemas["EventRuleView"];
export type Preview = Schemas["RoundPreview"];
export type Effects = Schemas["RoundEffects"];
export type Unsettled = Schemas["UnsettledItem"];
export type Reported = Schemas["RoundReport"];
export type ReportState = Schemas["ReportState"];

/** The rounds that the viewer runs, and what waits for them in any. */
export function useRounds() {
  return useQuery({
    queryKey: ["reviews"],
    queryFn: () => answerOf(api.GET("/api/reviews")),
  });
}

/** How a round goes. */
export function useRound(round: number) {
  return useQuery({
    queryKey: ["review", round, "round"],
    queryFn: () => answerOf(api.GET("/api/reviews/{round}", { params: { path: { round } } })),
  });
}

const of = (round: number) => ({ params: { path: { round } } });

/** What becomes of a round's decisions. */
export function useEffects(round: number) {
  return useQuery({
    queryKey: ["review", round, "effects"],
    queryFn: () => answerOf(api.GET("/api/reviews/{round}/effects", of(round))),
  });
}

/** What is to be said of a round's report. */
export function useReportState(round: number) {
  return useQuery({
    queryKey: ["review", round, "report"],
    queryFn: () => answerOf(api.GET("/api/reviews/{round}/report", of(round))),
  });
}

/** A round's report, as it was written. */
export function useReport(round: number, enabled: boolean) {
  return useQuery({
    queryKey: ["review", round, "report", "json"],
    queryFn: () => answerOf(api.GET("/api/reviews/{round}/report/json", of(round))),
    enabled,
  });
}

/** What rounds asked about somebody and decided, since a day. */
export function useReviewed(person: string, since: string) {
  return useQuery({
    queryKey: ["reviews", "reviewed", person, since],
    queryFn: () =>
      answerOf(api.GET("/api/reviews/reviewed", { params: { query: { person, since } } })),
    enabled: person !== "",
  });
}

/** What a round would ask, and whom. */
export function usePreview(order: RoundOrder, enabled: boolean) {
  return useQuery({
    queryKey: ["reviews", "preview", order],
    queryFn: () => answerOf(api.POST("/api/reviews/preview", { body: order })),
    enabled,
  });
}

/** @param then called at once, before the lists that changed are read again */
function useReviewAct<T, R>(act: (it: T) => Promise<R>, then?: () => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: () => then?.(),
    onSettled: () =>
      queries.invalidateQueries({
        predicate: (it) => it.queryKey[0] === "reviews" || it.queryKey[0] === "review",
      }),
  });
}

export function useMakeRound() {
  return useReviewAct((body: RoundOrder) => answerOf(api.POST("/api/reviews", { body })));
}

export function usePlanRound() {
  return useReviewAct((body: RoundOrder) => answerOf(api.POST("/api/reviews/plans", { body })));
}

export function useCancelRound(round: number) {
  return useReviewAct((reason: string) =>
    answerOf(
      api.POST("/api/reviews/{round}/cancel", { params: { path: { round } }, body: { reason } }),
    ),
  );
}

export function useGive(round: number) {
  return useReviewAct((body: Schemas["GiveOrder"]) =>
    answerOf(api.POST("/api/reviews/{round}/give", { params: { path: { round } }, body })),
  );
}

/** Makes the viewer the owner of a round. */
export function useTakeOver(round: number) {
  return useReviewAct(() => answerOf(api.POST("/api/reviews/{round}/owner", of(round))));
}

/** Answers for an item that has no decision in force. */
export function useAnswerFor(round: number, then: () => void) {
  return useReviewAct(
    ({ item, said }: { item: number; said: string }) =>
      answerOf(
        api.POST("/api/reviews/{round}/items/{item}/effect/answer", {
          params: { path: { round, item } },
          body: { said },
        }),
      ),
    then,
  );
}

/** Signs a round's result. */
export function useSign(round: number) {
  return useReviewAct((proof: string) =>
    answerOf(api.POST("/api/reviews/{round}/signature", { ...of(round), body: { proof } })),
  );
}

/** The number of the round that a job made, once it is done. */
export function useMadeRound(job: string | undefined) {
  return useQuery({
    queryKey: ["job", job, "answer"],
    queryFn: async () => {
      const answer = await answerOf(
        api.GET("/api/jobs/{id}/answer", { params: { path: { id: job ?? "" } } }),
      );
      return (answer as { round?: number }).round;
    },
    enabled: job !== undefined,
  });
}

/** The rules that make small reviews by events, as far as the viewer may run them. */
export function useEventRules() {
  return useQuery({
    queryKey: ["reviews", "rules"],
    queryFn: () => answerOf(api.GET("/api/reviews/rules")),
  });
}

/** Makes a rule, or changes the one with a number. */
export function useKeepRule(number: number | undefined, then: () => void) {
  return useReviewAct(
    (body: EventRule) =>
      number === undefined
        ? answerOf(api.POST("/api/reviews/rules", { body }))
        : answerOf(
            api.PUT("/api/reviews/rules/{rule}", { params: { path: { rule: number } }, body }),
          ),
    then,
  );
}

export function useEndRule(then: () => void) {
  return useReviewAct(
    (rule: number) =>
      answerOf(api.DELETE("/api/reviews/rules/{rule}", { params: { path: { rule } } })),
    then,
  );
}
