import { render } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { App } from "antd";
import { http, HttpResponse } from "msw";
import type { ReactElement } from "react";
import { MemoryRouter, useLocation } from "react-router";
import type { Schemas } from "@/shared/api/client";
import { server } from "./server";

/** A call as the server received it, in the order of the calls. */
export interface Call {
  method: string;
  path: string;
  query: Record<string, string>;
  body: unknown;
}

type Answer = object | ((call: Call) => object);

/** A refusal in place of an answer. */
export class Refusal {
  constructor(
    readonly status: number,
    readonly body: { title: string; detail: string; faults?: object[] },
  ) {}
}

const isJson = (request: Request) => (request.headers.get("Content-Type") ?? "").includes("json");

/**
 * Answers calls in place of the server. Keys are paths, with `:name` for a part that varies, and a
 * method before them unless it is GET: "POST /api/drafts/open/edits". Other calls fail the test.
 */
export function serve(answers: Record<string, Answer>): Call[] {
  const calls: Call[] = [];
  server.use(
    ...Object.entries(answers).map(([key, answer]) => {
      const [first = "", second] = key.split(" ");
      const path = second ?? first;
      const method = second ? first.toLowerCase() : "get";
      return http[method as "get"](`*${path}`, async ({ request }) => {
        const url = new URL(request.url);
        const text = await request.clone().text();
        const call: Call = {
          method: request.method,
          path: url.pathname,
          query: Object.fromEntries(url.searchParams),
          body: text === "" ? undefined : isJson(request) ? (JSON.parse(text) as unknown) : text,
        };
        calls.push(call);
        const body =
          typeof answer === "function" ? (answer as (call: Call) => object)(call) : answer;
        return body instanceof Refusal
          ? HttpResponse.json(body.body, { status: body.status })
          : HttpResponse.json(body);
      });
    }),
  );
  return calls;
}

const MAY = [
  ...["places.manage", "people.manage", "groups.manage", "account.manage", "bridge.manage"],
  ...["rights.define", "access.assign"],
].map((it) => `mandala.${it}`);

/** What every page asks for: accounts, and an empty draft. */
export const ACCOUNTS = {
  accounts: [
    { key: "trust", name: "Larkmoor Trust", depth: 0, readable: true, people: 9, may: MAY },
    {
      key: "q",
      name: "Quillhaven",
      parent: "trust",
      depth: 1,
      readable: true,
      people: 3,
      may: MAY,
    },
  ],
  people: true,
  transfer: true,
};

/** The answer of an edit: the open draft in short. */
export function openDraft(size: number, made: object[] = []) {
  return {
    draft: { id: "d1", size, mine: true, state: "open" },
    size,
    faults: 0,
    clashes: 0,
    made,
  };
}

export function person(more: Partial<Schemas["Who"]> = {}): Schemas["Who"] {
  return {
    key: "ilse",
    name: "Ilse Varga",
    account: "q",
    secondFactor: true,
    enrolled: true,
    ...more,
  };
}

function Address() {
  const { pathname, search } = useLocation();
  return <output aria-label="address">{decodeURIComponent(pathname + search)}</output>;
}

/** Shows a page at an address; the address is shown below it as it changes. */
export function show(page: ReactElement, address = "/") {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const shown = render(
    <QueryClientProvider client={client}>
      <App component={false}>
        <MemoryRouter initialEntries={[address]}>
          {page}
          <Address />
        </MemoryRouter>
      </App>
    </QueryClientProvider>,
  );
  /** Loads everything again, as after an edit. */
  return { ...shown, invalidate: () => client.invalidateQueries() };
}
