import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { http, HttpResponse } from "msw";
import { expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show, type Call } from "@/shared/testing/served";
import { server } from "@/shared/testing/server";
import { UseSources } from "./components/UseSources";
import type { Source } from "./use";

const MANAGES = {
  ...ACCOUNTS,
  accounts: ACCOUNTS.accounts.map((it) => ({ ...it, may: ["mandala.settings.manage"] })),
};

/** A source that reports everything, and of which nothing came in yet. */
const WHOLE: Source = {
  key: "doors",
  name: "Doors and keys",
  account: "q",
  places: ["account:q"],
  more: false,
  since: "2026-06-01",
  columns: { principal: "user", permission: "act", resource: "what", day: "time" },
  batches: 0,
  records: 0,
};

const SOURCE: Source = {
  ...WHOLE,
  permissions: ["room.enter", "room.view"],
  batches: 2,
  records: 1200,
  latest: "2026-11-30T09:00:00Z",
};

const LIST = {
  accounts: ["q"],
  sources: [SOURCE],
  ownSince: "2026-06-01",
  rolledAfter: 62,
  kept: 400,
  strangersKept: 60,
  window: 180,
  mine: true,
};

function list(sources: Source[], more: object = {}): Call[] {
  const calls = serve({
    "/api/accounts": MANAGES,
    "/api/use/sources": { ...LIST, sources },
    "/api/things/permissions": { things: [], total: 0 },
    ...more,
  });
  show(<UseSources />);
  return calls;
}

it("says of each source what it reports, since when, and what came in", async () => {
  list([
    { ...SOURCE, more: true },
    { ...WHOLE, key: "all", name: "Everything" },
  ]);
  const row = await screen.findByRole("row", { name: /Doors and keys/ });
  expect(row.textContent).toContain("2 permissions, and what you can't see");
  expect(row.textContent).toContain("since 1 Jun 2026");
  expect(row.textContent).toContain("1,200 records");
  const other = screen.getByRole("row", { name: /Everything/ });
  expect(other.textContent).toContain("every permission");
  expect(other.textContent).toContain("nothing yet");
});

it("shows the names that one doesn't know", async () => {
  list([SOURCE], {
    "/api/use/sources/:key/strangers": {
      records: 12400,
      strangers: [
        {
          principal: "new.comer",
          permission: "room.enter",
          resource: "room-1",
          last: "2026-11-29",
          records: 12400,
          missing: ["principal", "resource"],
        },
      ],
    },
  });
  await userEvent.click(await screen.findByRole("button", { name: "Expand row" }));
  expect(await screen.findByText(/12,400 records name someone or something/)).toBeDefined();
  expect(screen.getByText("the person and the place")).toBeDefined();
});

it("adds a source that reports everything only where that is chosen", async () => {
  const calls = list([], { "PUT /api/use/sources/:key": LIST });
  await userEvent.click(await screen.findByRole("button", { name: "New source" }));
  await userEvent.type(await screen.findByRole("textbox", { name: "Name" }), "Till & shop");
  const add = screen.getByRole("button", { name: "Add source" });
  await userEvent.click(screen.getByRole("radio", { name: "some permissions" }));
  expect(add).toHaveProperty("disabled", true);
  await userEvent.click(screen.getByRole("radio", { name: "every permission" }));
  await userEvent.click(add);
  await waitFor(() => {
    const put = calls.find((it) => it.method === "PUT");
    expect(put?.path).toBe("/api/use/sources/till-shop");
    expect(put?.body).toMatchObject({ name: "Till & shop", account: "q" });
    expect(put?.body).not.toHaveProperty("permissions");
  });
});

it("removes a source after a question", async () => {
  const calls = list([SOURCE], { "DELETE /api/use/sources/:key": { ...LIST, sources: [] } });
  await userEvent.click(await screen.findByRole("button", { name: "Remove Doors and keys" }));
  await userEvent.click(await screen.findByRole("button", { name: "Remove" }));
  await waitFor(() =>
    expect(calls.find((it) => it.method === "DELETE")?.path).toBe("/api/use/sources/doors"),
  );
});

/** Sends a file of records; tells with what type, and what was sent. */
async function send(name: string, answer: object) {
  const sent: { type: string | null; query: string; body: string }[] = [];
  server.use(
    http.post("*/api/use", async ({ request }) => {
      sent.push({
        type: request.headers.get("Content-Type"),
        query: new URL(request.url).search,
        body: await request.text(),
      });
      return answer instanceof Refusal
        ? HttpResponse.json(answer.body, { status: answer.status })
        : HttpResponse.json(answer);
    }),
  );
  await screen.findByText("Choose records");
  const input = document.querySelector<HTMLInputElement>("input[type=file]");
  await userEvent.upload(input!, new File(["a,b"], name));
  await userEvent.click(screen.getByRole("button", { name: "Import records" }));
  await waitFor(() => expect(sent).toHaveLength(1));
  return sent[0];
}

it("imports a table as one, and says what is not known", async () => {
  list([SOURCE]);
  const sent = await send("november.csv", { records: 2, unknown: 1, again: false });
  expect(sent?.type).toBe("text/csv");
  expect(sent?.body).toBe("a,b");
  expect(decodeURIComponent(sent?.query ?? "")).toContain("source=doors");
  expect(await screen.findByText("2 records came in.")).toBeDefined();
  expect(screen.getByText(/1 record names someone or something you don't know/)).toBeDefined();
});

it("says that a file came in before, and lists the errors of another", async () => {
  list([SOURCE]);
  const sent = await send("november.jsonl", { records: 2, unknown: 0, again: true });
  expect(sent?.type).toBe("application/x-ndjson");
  expect(await screen.findByText("This file came in before. Nothing was added.")).toBeDefined();
  await send(
    "december.jsonl",
    new Refusal(422, {
      title: "The records have 1 fault",
      detail: "Nothing was changed. Fix the errors listed and send it again.",
      faults: [{ path: "line 3: $.day", what: "the day has not come yet", next: "Send others" }],
    }),
  );
  expect(await screen.findByText(/the day has not come yet/)).toBeDefined();
});

it("sets how long use is kept, and says why a figure is refused", async () => {
  const detail = "Keep use for longer, or choose a shorter window.";
  const calls = list([SOURCE], {
    "PUT /api/use/policy": (call: Call) =>
      (call.body as { window: number }).window > 400
        ? new Refusal(400, { title: "The window is longer than what is kept", detail })
        : { ...LIST, sources: [SOURCE] },
  });
  expect(await screen.findByText(/Use is kept for 400 days/)).toBeDefined();
  await userEvent.click(screen.getByRole("button", { name: "Change" }));
  const field = screen.getByRole("spinbutton", { name: "Days of the usual window" });
  await userEvent.clear(field);
  await userEvent.type(field, "500");
  await userEvent.click(screen.getByRole("button", { name: "Save" }));
  expect(await screen.findByText(detail)).toBeDefined();
  await userEvent.clear(field);
  await userEvent.type(field, "90");
  await userEvent.click(screen.getByRole("button", { name: "Save" }));
  await waitFor(() =>
    expect(calls.findLast((it) => it.method === "PUT")?.body).toEqual({
      kept: 400,
      rolledAfter: 62,
      strangersKept: 60,
      window: 90,
    }),
  );
  expect(await screen.findByText(/the usual window is 180 days/)).toBeDefined();
});

it("only tells how long use is kept to who can't set it", async () => {
  serve({
    "/api/accounts": MANAGES,
    "/api/use/sources": { ...LIST, mine: false },
    "/api/things/permissions": { things: [], total: 0 },
  });
  show(<UseSources />);
  expect(await screen.findByText(/Use is kept for 400 days/)).toBeDefined();
  expect(screen.queryByRole("button", { name: "Change" })).toBeNull();
});
