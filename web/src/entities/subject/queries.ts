import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answerOf, api } from "@/shared/api/client";

/** People and services that the viewer may ask about, by part of their name. */
export function usePeopleChoices(text: string, enabled = true) {
  return useQuery({
    queryKey: ["people-choices", text],
    queryFn: () => answerOf(api.GET("/api/people/choices", { params: { query: { text } } })),
    placeholderData: keepPreviousData,
    enabled,
  });
}
