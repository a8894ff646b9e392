import { answerOf, api, Problem } from "@/shared/api/client";
import type { Typed } from "./questionParser";

/** Something found, and its page. */
export interface Found {
  key: string;
  name: string;
  note: string;
  page: string;
}

/** A kind of thing that the search looks through. */
export interface Source {
  label: string;
  find: (text: string, account: string | undefined) => Promise<Found[]>;
}

/** Results shown of each kind. */
export const FEW = 4;

async function people(text: string, account: string | undefined): Promise<Found[]> {
  const query = { text, ...(account && { account }) };
  const found = await answerOf(api.GET("/api/people/choices", { params: { query } }));
  return found.map((it) => ({
    key: it.key,
    name: it.name,
    note: [it.title, it.accountName].filter(Boolean).join(", "),
    page: `/people/${encodeURIComponent(it.key)}`,
  }));
}

/** Places; those of the account one works in come first, since many share a name. */
async function places(text: string, account: string | undefined): Promise<Found[]> {
  const query = { text, ...(account && { account }) };
  const found = await answerOf(api.GET("/api/places/choices", { params: { query } }));
  return found.map((it) => ({
    key: it.key,
    name: it.name,
    note: it.account,
    page: `/places?at=${encodeURIComponent(it.key)}`,
  }));
}

function things(kind: string, page: (key: string) => string) {
  return async (text: string): Promise<Found[]> => {
    const found = await answerOf(
      api.GET("/api/things/{kind}", { params: { path: { kind }, query: { text, limit: FEW } } }),
    ).catch((error: unknown) => {
      // Those who may not list a kind find none of it.
      if (error instanceof Problem && error.status === 403) return { things: [] };
      throw error;
    });
    return found.things.flatMap((it) =>
      it.key
        ? [
            {
              key: it.key,
              name: it.name,
              note: it.account ?? "",
              page: page(encodeURIComponent(it.key)),
            },
          ]
        : [],
    );
  };
}

export const SOURCES: Source[] = [
  { label: "People", find: people },
  { label: "Groups", find: things("groups", (key) => `/groups/${key}`) },
  { label: "Roles", find: things("roles", (key) => `/rights/roles/${key}`) },
  { label: "Permission sets", find: things("permissionSets", (key) => `/rights/sets?open=${key}`) },
  { label: "Permissions", find: things("permissions", (key) => `/rights/permissions?open=${key}`) },
  { label: "Places", find: places },
];

/** Has the server read a text as a question. */
export function readQuestion(text: string, account: string | undefined): Promise<Typed> {
  const query = { text, ...(account && { account }) };
  return answerOf(api.GET("/api/ask/typed", { params: { query } }));
}
