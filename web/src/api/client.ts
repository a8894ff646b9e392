import createClient, { type Middleware } from "openapi-fetch";
import { eyes, headersOf } from "../lib/eyes";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

export interface Fault {
  path: string;
  what: string;
  next: string;
}

/** What the server says when it refuses (RFC 9457), or what we say when it cannot be reached. */
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
  "Mandala cannot be reached",
  "Check the connection and try again; nothing that you typed is lost.",
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
    for (const [name, value] of Object.entries(headersOf(eyes()))) request.headers.set(name, value);
    if (token && request.method !== "GET") request.headers.set("X-XSRF-TOKEN", token);
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(protection);

/** Called where a call finds that nobody is signed in any more. */
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

/** Gives what a call answers, or throws its problem. */
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
