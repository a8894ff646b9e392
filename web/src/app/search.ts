import { answerOf, api, Problem } from "@/shared/api/client";
import { meant, pageOf, type Asked } from "./questionParser";

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

async function people(text: string): Promise<Found[]> {
  const found = await answerOf(api.GET("/api/people/choices", { params: { query: { text } } }));
  return found.map((it) => ({
    key: it.key,
    name: it.name,
    note: [it.title, it.accountName].filter(Boolean).join(", "),
    page: `/ask?who=${encodeURIComponent(it.key)}`,
  }));
}

/** Places; those of the account one works in come first, since many share a name. */
async function places(text: string, account: string | undefined): Promise<Found[]> {
  const ask = (query: { text: string; account?: string }) =>
    answerOf(api.GET("/api/places/choices", { params: { query } }));
  const [here, all] = await Promise.all([account ? ask({ text, account }) : [], ask({ text })]);
  const known = new Set(here.map((it) => it.key));
  return [...here, ...all.filter((it) => !known.has(it.key))].map((it) => ({
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

const permissions = things("permissions", (key) => `/ask/who?permission=${key}`);

export const SOURCES: Source[] = [
  { label: "People", find: people },
  { label: "Groups", find: things("groups", (key) => `/groups/${key}`) },
  { label: "Roles", find: things("roles", (key) => `/rights/roles/${key}`) },
  { label: "Permission sets", find: things("permissionSets", (key) => `/rights/sets?open=${key}`) },
  { label: "Permissions", find: permissions },
  { label: "Places", find: places },
];

async function accounts(text: string): Promise<Found[]> {
  const all = await answerOf(api.GET("/api/accounts"));
  return all.accounts
    .filter((it) => it.name.toLowerCase().includes(text))
    .map((it) => ({ key: it.key, name: it.name, note: "account", page: "" }));
}

/** The page that answers a typed question, or the name in it that is not known. */
export async function answerTyped(
  asked: Asked,
  account: string | undefined,
): Promise<{ page?: string; unknown?: string }> {
  const placesHere = (text: string) => places(text, account);
  const one = async (name: string, among: (text: string) => Promise<Found[]>) =>
    name ? meant(name, await among(name))?.key : undefined;
  switch (asked.form) {
    case "access":
      return pageOf(asked, {
        who: await one(asked.who, people),
        where: await one(asked.where, accounts),
      });
    case "differ":
      return pageOf(asked, {
        who: await one(asked.one, people),
        other: await one(asked.other, people),
      });
    case "who":
      return pageOf(asked, {
        what: await one(asked.what, permissions),
        where: await one(asked.where, placesHere),
      });
    case "why":
    case "chains":
      return pageOf(asked, {
        who: await one(asked.who, people),
        what: await one(asked.what, permissions),
        where: await one(asked.where, placesHere),
      });
    default:
      return asked satisfies never;
  }
}
