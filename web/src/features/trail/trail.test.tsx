import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show } from "@/shared/testing/served";
import { filterOf } from "./model";
import { TrailPage } from "./pages/TrailPage";

const line = {
  seq: 12,
  at: "2026-10-07T12:50:00Z",
  who: "ilse",
  whoName: "Ilse Varga",
  act: "changed",
  said: "Omar Chidi: title “Registrar” becomes “Development officer”",
  revision: 30,
  hash: "0123456789abcdef0123",
  before: { title: "Registrar" },
  after: { title: "Development officer" },
};

const answers = {
  "/api/accounts": ACCOUNTS,
  "/api/things/:kind": { things: [], total: 0 },
  "/api/trail": {
    lines: [line, { ...line, seq: 11, who: undefined, whoName: undefined }],
    total: 900,
    limited: true,
  },
  "/api/revisions/:number": {
    revision: {
      number: 30,
      title: "Omar Chidi changes jobs",
      author: "Ilse Varga",
      at: line.at,
      size: 3,
      whole: false,
      reason: "He asked for it",
      reference: "LK-9",
      approvedBy: ["Marten Holloway"],
    },
    changes: [
      { at: 0, sentences: ["One"] },
      { at: 1, sentences: ["Two", "Three"] },
      { at: 2, sentences: ["Four"] },
    ],
    hidden: false,
  },
  "/api/revisions": [
    { number: 30, title: "Omar Chidi changes jobs", author: "Ilse Varga", at: line.at },
    { number: 29, title: "Reverted", at: line.at, takesBack: 28 },
  ],
};

describe("the trail", () => {
  it("lists records, each with what was there before and after", async () => {
    serve(answers);
    show(<TrailPage />, "/trail");
    expect(
      await screen.findByText("900 records, of the accounts whose trail you can read and your own"),
    ).toBeDefined();
    expect(screen.getByText("Mandala")).toBeDefined();
    await userEvent.click(screen.getAllByRole("button", { name: /Omar Chidi: title/ })[0]!);
    expect(screen.getByLabelText("Before").textContent).toContain("Registrar");
    expect(screen.getByLabelText("After").textContent).toContain("Development officer");
    expect(screen.getByText(/record 12 · from Mandala itself · revision 30/)).toBeDefined();
  });

  it("loads older records when asked to", async () => {
    const calls = serve(answers);
    show(<TrailPage />, "/trail");
    await userEvent.click(await screen.findByRole("button", { name: "Load older records" }));
    await waitFor(() =>
      expect(calls.filter((it) => it.path === "/api/trail").map((it) => it.query["limit"])).toEqual(
        ["100", "500"],
      ),
    );
  });

  it("is filtered by the address, and the filters are cleared", async () => {
    const calls = serve({ ...answers, "/api/trail": { lines: [], total: 0, limited: false } });
    show(<TrailPage />, "/trail?act=refused&from=2026-10-01&text=omar");
    expect(await screen.findByText("No records match. Clear a filter.")).toBeDefined();
    expect(calls.find((it) => it.path === "/api/trail")?.query).toMatchObject({
      act: "refused",
      from: "2026-10-01T00:00:00Z",
      text: "omar",
    });
    expect(screen.getByRole("button", { name: "Act: been refused" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Clear filters" }));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/trail"));
  });

  it("reverts a revision in a new draft", async () => {
    const calls = serve({ ...answers, "POST /api/drafts/taking-back/:revision": { id: "d9" } });
    show(<TrailPage />, "/trail");
    await userEvent.click(await screen.findByRole("button", { name: /^30 Omar Chidi/ }));
    await userEvent.click(await screen.findByRole("button", { name: "Revert in a new draft" }));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/drafts/d9"));
    expect(calls.find((it) => it.path.endsWith("/taking-back/30"))?.body).toEqual({});
  });

  it("says why a revision was made, and reverts only the changes that are chosen", async () => {
    const calls = serve({ ...answers, "POST /api/drafts/taking-back/:revision": { id: "d9" } });
    show(<TrailPage />, "/trail?revision=30");
    expect(await screen.findByText("Reason: He asked for it")).toBeDefined();
    expect(screen.getByText("Approved by Marten Holloway")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Choose changes to revert" }));
    await userEvent.click(screen.getByLabelText("Two; Three"));
    await userEvent.click(screen.getByRole("button", { name: "Revert 2 changes in a new draft" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({ only: [0, 2] }),
    );
  });

  const job = (some: object) => ({
    id: "e1234567890",
    kind: "trail-export",
    title: "Trail as CSV",
    details: {},
    done: 0,
    total: 900,
    begun: "2026-11-29T08:00:00Z",
    answered: false,
    bytes: 0,
    ...some,
  });

  it("exports all records in the background, to download", async () => {
    const calls = serve({
      ...answers,
      "/api/jobs": { jobs: [] },
      "POST /api/trail/exports": job({ state: "running" }),
      "/api/jobs/:id": job({ state: "done", done: 900 }),
    });
    show(<TrailPage />, "/trail?act=changed");
    await userEvent.click(screen.getByRole("button", { name: "Export all as CSV" }));
    const link = await screen.findByRole("link", { name: "Download 900 records" });
    expect(link.getAttribute("href")).toBe("/api/jobs/e1234567890/file");
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({
      format: "csv",
      filter: { act: "changed" },
    });
  });

  it("says that an export failed, with a reference", async () => {
    serve({
      ...answers,
      "/api/jobs": { jobs: [] },
      "POST /api/trail/exports": job({ state: "running" }),
      "/api/jobs/:id": job({ state: "failed", fault: "It failed 3 times (reference e1234567)." }),
    });
    show(<TrailPage />, "/trail");
    await userEvent.click(screen.getByRole("button", { name: "Export all as XLSX" }));
    expect((await screen.findByRole("alert")).textContent).toContain("(reference e1234567)");
  });

  it("shows why it can't be read", async () => {
    serve({ ...answers, "/api/trail": new Refusal(503, { title: "Busy", detail: "Wait." }) });
    show(<TrailPage />, "/trail");
    expect(await screen.findByText("Wait.")).toBeDefined();
  });
});

it("the filter of an address has days as instants, and leaves out what is empty", () => {
  expect(filterOf(new URLSearchParams(), "")).toEqual({});
  expect(filterOf(new URLSearchParams("who=ilse&until=2026-12-01&revision=30"), "omar")).toEqual({
    who: "ilse",
    until: "2026-12-01T00:00:00Z",
    revision: 30,
    text: "omar",
  });
});
