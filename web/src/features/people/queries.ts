import { keepPreviousData, useQueries, useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "../../api/client";
import { PAGE, type Filter } from "./model";

export type Row = Schemas["Row"];

function stretch(filter: Filter, page: number) {
  return {
    queryKey: ["people", filter, page],
    queryFn: () =>
      answerOf(
        api.GET("/api/people", {
          params: {
            query: {
              account: filter.account,
              text: filter.text,
              state: filter.states.join(","),
              kind: filter.kind,
              title: filter.title,
              offset: page * PAGE,
              limit: PAGE,
            },
          },
        }),
      ),
  };
}

/** The first stretch, which also tells how many there are. */
export function usePeople(filter: Filter) {
  return useQuery({ ...stretch(filter, 0), placeholderData: keepPreviousData });
}

/** The stretches that are in sight. */
export function usePeoplePages(filter: Filter, pages: number[]) {
  return useQueries({ queries: pages.map((page) => stretch(filter, page)) });
}

/** People about whom one may ask, by a part of their name. */
export function usePeopleChoices(text: string, enabled = true) {
  return useQuery({
    queryKey: ["people-choices", text],
    queryFn: () => answerOf(api.GET("/api/people/choices", { params: { query: { text } } })),
    placeholderData: keepPreviousData,
    enabled,
  });
}
