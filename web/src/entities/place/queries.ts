import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import { DRAFT } from "@/entities/thing/queries";

export type PlaceView = Schemas["PlaceView"];
export type MatrixView = Schemas["MatrixView"];

/** Most places loaded of one level. */
export const LEVEL = 10_000;

function level(place: string) {
  return {
    queryKey: ["places", "below", place],
    queryFn: () =>
      answerOf(
        api.GET("/api/places/below", { params: { query: { place, draft: DRAFT, limit: LEVEL } } }),
      ),
  };
}

/** The places directly below each of these. */
export function useBelow(places: string[]) {
  return useQueries({
    queries: places.map(level),
    combine: (answers) =>
      new Map(answers.flatMap((it, i) => (it.data ? [[places[i] ?? "", it.data] as const] : []))),
  });
}

export function usePlace(place: string) {
  return useQuery({
    queryKey: ["places", "page", place],
    queryFn: () => answerOf(api.GET("/api/places", { params: { query: { place, draft: DRAFT } } })),
    enabled: place !== "",
    placeholderData: keepPreviousData,
  });
}

export function useMatrix(place: string) {
  return useQuery({
    queryKey: ["places", "matrix", place],
    queryFn: () =>
      answerOf(api.GET("/api/places/matrix", { params: { query: { place, draft: DRAFT } } })),
    placeholderData: keepPreviousData,
  });
}
