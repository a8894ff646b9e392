import { keepPreviousData, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
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

/** Reads all rows of a filter, stretch by stretch; what is known already is not read again. */
export function useEverybody() {
  const client = useQueryClient();
  return async (filter: Filter, total: number): Promise<Row[]> => {
    const rows: Row[] = [];
    for (let page = 0; page * PAGE < total; page++) {
      const answer = await client.fetchQuery({ ...stretch(filter, page), staleTime: 30_000 });
      rows.push(...answer.rows);
    }
    return rows;
  };
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
