import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import { figureFrom, PAGE, queryOf, type Filter } from "./model";

/** A person in the list, with the whole figure to draw. */
export type Row = Omit<Schemas["Row"], "figure"> & { figure?: Schemas["FigureView"] };

function pageOf(filter: Filter, page: number) {
  return {
    queryKey: ["people", filter, page],
    queryFn: async () => {
      const answer = await answerOf(
        api.GET("/api/people", {
          params: {
            query: { ...queryOf(filter), offset: page * PAGE, limit: PAGE },
          },
        }),
      );
      return {
        ...answer,
        rows: answer.rows.map(({ figure, ...row }): Row => ({
          ...row,
          ...(figure && { figure: figureFrom(figure, answer.areas) }),
        })),
      };
    },
  };
}

/** Looks up whom a pasted list names. */
export function useNamed() {
  return useMutation({
    mutationFn: (lines: string[]) => answerOf(api.POST("/api/people/named", { body: { lines } })),
  });
}

/** The groups of a list, with how many are in each. */
export function usePeopleGroups(filter: Filter) {
  return useQuery({
    queryKey: ["people", "groups", filter],
    queryFn: () => answerOf(api.GET("/api/people/groups", { params: { query: queryOf(filter) } })),
    placeholderData: keepPreviousData,
  });
}

/** Sends many people a link to sign in with, or signs them out. */
export function useSignInHelp(act: "invitations" | "sign-outs") {
  return useMutation({
    mutationFn: (people: string[]) =>
      answerOf(
        act === "invitations"
          ? api.POST("/api/people/invitations", { body: { people } })
          : api.POST("/api/people/sign-outs", { body: { people } }),
      ),
  });
}

/** The first page, which also has the total. */
export function usePeople(filter: Filter) {
  return useQuery({ ...pageOf(filter, 0), placeholderData: keepPreviousData });
}

/** The rows of the pages in sight, undefined while they load. */
export function usePeoplePages(filter: Filter, pages: number[]): (Row[] | undefined)[] {
  return useQueries({
    queries: pages.map((page) => pageOf(filter, page)),
    combine: (answers) => answers.map((it) => it.data?.rows),
  });
}

/** Loads all rows of a filter, page by page, from the cache where it can. */
export function useEverybody() {
  const client = useQueryClient();
  return async (filter: Filter, total: number): Promise<Row[]> => {
    const rows: Row[] = [];
    for (let page = 0; page * PAGE < total; page++) {
      const answer = await client.query({ ...pageOf(filter, page), staleTime: 30_000 });
      rows.push(...answer.rows);
    }
    return rows;
  };
}
