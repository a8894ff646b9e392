import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDraftAct } from "@/entities/draft/queries";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type TieView = Schemas["TieView"];

/** For which act, and of a move the new post. */
export interface TieQuestion {
  act: "copy" | "move" | "part";
  account?: string;
  unit?: string;
  title?: string;
  grace?: boolean;
}

const path = (key: string) => ({ params: { path: { key } } });

/** What ties somebody to the model, and what usually becomes of it in an act. */
export function useTies(key: string, question: TieQuestion, enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["ties", key, question],
    queryFn: ({ signal }) =>
      answerOf(
        api.GET("/api/people/{key}/ties", {
          params: { path: { key }, query: question },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** What a copy would be able to do. */
export function useCopyPreview(key: string, order: Schemas["CopyOrder"], enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["copy-preview", key, order],
    queryFn: ({ signal }) =>
      answerOf(api.POST("/api/people/{key}/copies/preview", { ...path(key), body: order, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useCopy(key: string) {
  return useDraftAct((body: Schemas["CopyOrder"]) =>
    answerOf(api.POST("/api/people/{key}/copies", { ...path(key), body })),
  );
}

export function useMove(key: string) {
  return useDraftAct((body: Schemas["MoveOrder"]) =>
    answerOf(api.POST("/api/people/{key}/moves", { ...path(key), body })),
  );
}

export function useLend(key: string) {
  return useDraftAct((body: Schemas["LoanOrder"]) =>
    answerOf(api.POST("/api/people/{key}/loans", { ...path(key), body })),
  );
}

export function usePart(key: string) {
  return useDraftAct((body: Schemas["PartOrder"]) =>
    answerOf(api.POST("/api/people/{key}/parting", { ...path(key), body })),
  );
}

/** What somebody had when they left. */
export function useHad(key: string) {
  return useQuery({
    queryKey: ["had", key],
    queryFn: ({ signal }) => answerOf(api.GET("/api/people/{key}/had", { ...path(key), signal })),
  });
}

export function useReturn(key: string) {
  return useDraftAct((body: Schemas["ReturnOrder"]) =>
    answerOf(api.POST("/api/people/{key}/return", { ...path(key), body })),
  );
}

export function useMergePerson(key: string) {
  return useDraftAct((into: string) =>
    answerOf(api.POST("/api/people/{key}/merge", { ...path(key), body: { into } })),
  );
}

export function useSplit(key: string) {
  return useDraftAct((body: Schemas["SplitOrder"]) =>
    answerOf(api.POST("/api/people/{key}/split", { ...path(key), body })),
  );
}

export function useEndNow(key: string) {
  return useDraftAct((body: Schemas["EndNowOrder"]) =>
    answerOf(api.POST("/api/people/{key}/end-now", { ...path(key), body })),
  );
}

/** What somebody has that is not of the model, and what is planned for them. */
export function useStanding(key: string, enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["standing", key],
    queryFn: ({ signal }) =>
      answerOf(api.GET("/api/people/{key}/standing", { ...path(key), signal })),
  });
}

/** Hands over what waits for somebody, at once. */
export function useHandWork(key: string) {
  const known = useQueryClient();
  return useMutation({
    mutationFn: (to: string) =>
      answerOf(api.POST("/api/people/{key}/work", { ...path(key), body: { to } })),
    onSuccess: () => known.invalidateQueries({ queryKey: ["standing", key] }),
  });
}

export function useTakeBackPlanned(key: string) {
  return useDraftAct((number: number) =>
    answerOf(
      api.DELETE("/api/people/{key}/planned/{number}", { params: { path: { key, number } } }),
    ),
  );
}

export function useSendLink(key: string) {
  return useMutation({
    mutationFn: () => answerOf(api.POST("/api/people/{key}/invitation", path(key))),
  });
}

export function useFirstPassword(key: string) {
  return useMutation({
    mutationFn: () => answerOf(api.POST("/api/people/{key}/first-password", path(key))),
  });
}

export function useSignOutEverywhere(key: string) {
  return useDraftAct(() => answerOf(api.POST("/api/people/{key}/sign-out", path(key))));
}

/** What a list of people comes to. */
export function useLookAtArrivals(order: Schemas["ArrivalOrder"], enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["arrivals", order],
    queryFn: ({ signal }) =>
      answerOf(api.POST("/api/people/arrivals/look", { body: order, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

export function useBringIn() {
  return useDraftAct((body: Schemas["ArrivalOrder"]) =>
    answerOf(api.POST("/api/people/arrivals", { body })),
  );
}
