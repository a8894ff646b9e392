import { render } from "@testing-library/react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import type { ReactElement } from "react";
import { MemoryRouter, useLocation } from "react-router";
import { vi } from "vitest";
import { api } from "../api/client";

/** What was asked: the path and its query, in the order of the calls. */
export interface Call {
  path: string;
  query: Record<string, unknown>;
}

type Body = object | ((query: Record<string, unknown>) => object);

/** A refusal in place of an answer. */
export class Refusal {
  constructor(
    readonly status: number,
    readonly body: { title: string; detail: string },
  ) {}
}

/** Answers GET calls by path instead of a server; what is not named is an error of the test. */
export function serve(bodies: Record<string, Body>): Call[] {
  const calls: Call[] = [];
  vi.spyOn(api, "GET").mockImplementation(((path: string, options?: unknown) => {
    const params = (options as { params?: { query?: Record<string, unknown> } } | undefined)
      ?.params;
    const query = params?.query ?? {};
    calls.push({ path, query });
    const body = bodies[path];
    if (!body) return Promise.reject(new Error(`nothing is served at ${path}`));
    const answer = typeof body === "function" ? body(query) : body;
    return Promise.resolve(
      answer instanceof Refusal
        ? { error: answer.body, response: new Response(null, { status: answer.status }) }
        : { data: answer, response: new Response(null, { status: 200 }) },
    );
  }) as never);
  return calls;
}

function Address() {
  const { pathname, search } = useLocation();
  return <output aria-label="address">{decodeURIComponent(pathname + search)}</output>;
}

/** Shows a page at an address; what becomes of the address stands below it. */
export function show(page: ReactElement, address: string) {
  const client = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[address]}>
        {page}
        <Address />
      </MemoryRouter>
    </QueryClientProvider>,
  );
}
