import { useDeferredValue, useState } from "react";
import { useQueries } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answerOf, api } from "../api/client";
import { useAccount } from "./account";
import { askedIn, meant, pageOf, type Asked } from "../lib/asked";

/** Something found, and its page. */
interface Found {
  key: string;
  name: string;
  note: string;
  page: string;
}

/** Of each kind so many are shown. */
const FEW = 4;

const THINGS: [kind: string, note: string, page: (key: string) => string][] = [
  ["groups", "group", (key) => `/groups/${key}`],
  ["roles", "role", (key) => `/rights/roles/${key}`],
  ["permissionSets", "permission set", () => "/rights/sets"],
  ["permissions", "permission", (key) => `/ask/who?permission=${key}`],
];

async function people(text: string): Promise<Found[]> {
  const found = await answerOf(api.GET("/api/people/choices", { params: { query: { text } } }));
  return found.map((it) => ({
    key: it.key,
    name: it.name,
    note: [it.title, it.accountName].filter(Boolean).join(", "),
    page: `/ask?who=${encodeURIComponent(it.key)}`,
  }));
}

/** Places, those of an account first: many are called alike. */
async function places(text: string, account: string | undefined): Promise<Found[]> {
  const ask = (query: { text: string; account?: string }) =>
    answerOf(api.GET("/api/places/choices", { params: { query } }));
  const [here, all] = await Promise.all([account ? ask({ text, account }) : [], ask({ text })]);
  const known = new Set(here.map((it) => it.key));
  return [...here, ...all.filter((it) => !known.has(it.key))].map((it) => ({
    key: it.key,
    name: it.name,
    note: ["place", it.account].filter(Boolean).join(", "),
    page: `/places?at=${encodeURIComponent(it.key)}`,
  }));
}

async function things(
  kind: string,
  note: string,
  page: (key: string) => string,
  text: string,
): Promise<Found[]> {
  const found = await answerOf(
    api.GET("/api/things/{kind}", { params: { path: { kind }, query: { text, limit: FEW } } }),
  );
  return found.things.flatMap((it) =>
    it.key
      ? [
          {
            key: it.key,
            name: it.name,
            note: [note, it.account].filter(Boolean).join(", "),
            page: page(encodeURIComponent(it.key)),
          },
        ]
      : [],
  );
}

function permissions(text: string): Promise<Found[]> {
  return things("permissions", "permission", () => "", text);
}

/** The page that answers a typed question, or what in it is not known. */
async function answerOfTyped(
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

async function accounts(text: string): Promise<Found[]> {
  const all = await answerOf(api.GET("/api/accounts"));
  return all.accounts
    .filter((it) => it.name.toLowerCase().includes(text))
    .map((it) => ({ key: it.key, name: it.name, note: "account", page: "" }));
}

/** Finds anything by name, and takes a whole question as a sentence. */
export function Search() {
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const [open, setOpen] = useState(false);
  const [unknown, setUnknown] = useState("");
  const navigate = useNavigate();
  const [account] = useAccount();
  const typed = useDeferredValue(text.trim());
  const asked = askedIn(typed);
  const wanted = open && typed !== "" && !asked;
  const answers = useQueries({
    queries: [
      { queryKey: ["find", "people", typed], queryFn: () => people(typed), enabled: wanted },
      ...THINGS.map(([kind, note, page]) => ({
        queryKey: ["find", kind, typed],
        queryFn: () => things(kind, note, page, typed),
        enabled: wanted,
        retry: false,
      })),
      {
        queryKey: ["find", "places", typed, account?.key],
        queryFn: () => places(typed, account?.key),
        enabled: wanted,
      },
    ],
  });
  const found: Found[] = asked
    ? [{ key: "?", name: typed, note: "ask this", page: "" }]
    : answers.flatMap((it) => (it.data ?? []).slice(0, FEW));
  const fetching = answers.some((it) => it.isFetching);

  function leave(page: string) {
    setOpen(false);
    setText("");
    void navigate(page);
  }

  async function choose(it: Found) {
    if (!asked) return leave(it.page);
    const answer = await answerOfTyped(asked, account?.key);
    if (answer.page) leave(answer.page);
    else setUnknown(answer.unknown ?? "");
  }

  return (
    <div className="search" onBlur={() => setTimeout(() => setOpen(false), 150)}>
      <input
        id="search"
        role="combobox"
        aria-label="Find anything, or ask"
        aria-expanded={open && found.length > 0}
        aria-controls="search-found"
        aria-activedescendant={found[at] ? `search-found-${at}` : undefined}
        placeholder="Find anything, or ask"
        value={text}
        onFocus={() => setOpen(true)}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
          setUnknown("");
          setOpen(true);
        }}
        onKeyDown={(event) => {
          const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
          if (step) {
            event.preventDefault();
            setAt(Math.max(0, Math.min(at + step, found.length - 1)));
          }
          if (event.key === "Escape") {
            setOpen(false);
            event.currentTarget.blur();
          }
          const chosen = found[at];
          if (event.key === "Enter" && chosen) void choose(chosen);
        }}
      />
      <kbd>/</kbd>
      {open && typed !== "" && (
        <ul id="search-found" role="listbox" aria-label="Found">
          {found.map((it, i) => (
            <li
              key={`${it.note} ${it.key}`}
              id={`search-found-${i}`}
              role="option"
              aria-selected={i === at}
              className={i === at ? "active" : undefined}
              onMouseDown={(event) => {
                event.preventDefault();
                void choose(it);
              }}
            >
              {it.name} <small>{it.note}</small>
            </li>
          ))}
          {unknown && (
            <li className="choose-empty" role="alert">
              “{unknown}” is nothing that you may ask about.
            </li>
          )}
          {found.length === 0 && (
            <li className="choose-empty">{fetching ? "Fetching …" : "Nothing fits."}</li>
          )}
        </ul>
      )}
    </div>
  );
}
