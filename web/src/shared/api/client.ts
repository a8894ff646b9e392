import createClient, { type Middleware } from "openapi-fetch";
import { impersonation, impersonationHeaders } from "@/shared/lib/impersonation";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

export interface Fault {
  path: string;
  what: string;
  next: string;
}

/** The server's refusal (RFC 9457), or that it cannot be reached. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly faults: Fault[] = [],
  ) {
    super(title);
  }
}

export const AWAY = new Problem(
  0,
  "Mandala can't be reached",
  "Check your connection and try again. What you typed is kept.",
);

function cookie(name: string): string | undefined {
  return document.cookie
    .split("; ")
    .find((each) => each.startsWith(name + "="))
    ?.slice(name.length + 1);
}

const protection: Middleware = {
  onRequest({ request }) {
    const token = cookie("XSRF-TOKEN");
    for (const [name, value] of Object.entries(impersonationHeaders(impersonation())))
      request.headers.set(name, value);
    if (token && request.method !== "GET") request.headers.set("X-XSRF-TOKEN", token);
    return request;
  },
};

export const api = createClient<paths>({
  baseUrl: window.location.origin,
  fetch: (request) => fetch(request), // looked up at each call
});
api.use(protection);

/** Called when a call finds that the session has ended. */
const signedOut = new Set<() => void>();

export function onSignedOut(listener: () => void): () => void {
  signedOut.add(listener);
  return () => signedOut.delete(listener);
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** {@return the answer of a call} @throws Problem if the server refuses or cannot be reached */
export async function answerOf<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch {
    throw AWAY;
  }
  if (answer.response.ok) return answer.data as T;
  const problem = (answer.error ?? {}) as {
    title?: string;
    detail?: string;
    faults?: Fault[];
  };
  if (answer.response.status === 401 && !answer.response.url.includes("/api/session")) {
    signedOut.forEach((listener) => listener());
  }
  throw new Problem(
    answer.response.status,
    problem.title ?? "Something went wrong",
    problem.detail ?? "Try again in a moment.",
    problem.faults,
  );
}
