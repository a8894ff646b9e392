import { http, HttpResponse } from "msw";
import { setupServer } from "msw/node";

/**
 * Answers in place of the server. Fields look up names and accounts: where a test serves none, there
 * is none. Every other call that a test does not serve fails it.
 */
export const server = setupServer(
  http.get("*/api/things/:kind", () => HttpResponse.json({ things: [], total: 0 })),
  http.get("*/api/session", () => HttpResponse.json({ demo: false })),
  http.get("*/api/accounts", () =>
    HttpResponse.json({ accounts: [], people: true, transfer: false }),
  ),
);
