import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { DraftsPage } from "./DraftsPage";

afterEach(() => {
  vi.restoreAllMocks();
});

function draft(id: string, name: string, mine: boolean) {
  return {
    id,
    name,
    mine,
    owner: { key: "noor", name: "Noor Haddad" },
    state: "open",
    version: 1,
    content: "c",
    size: 1,
    changedAt: "2026-11-27T09:00:00Z",
  };
}

describe("the list of drafts", () => {
  it("says how many more are still being checked", async () => {
    serve({
      "/api/drafts": { mine: [draft("a", "Loans", true)], waiting: [], judging: 3, discarded: [] },
    });
    show(<DraftsPage />, "/drafts");
    expect(
      await screen.findByText("Checking whether 3 more drafts need your approval…"),
    ).toBeDefined();
    expect(screen.getByText("Loans")).toBeDefined();
  });

  it("shows what waits for approval apart from one's own", async () => {
    serve({
      "/api/drafts": {
        mine: [],
        waiting: [draft("b", "Night shift", false)],
        judging: 1,
        discarded: [],
      },
    });
    show(<DraftsPage />, "/drafts");
    expect(await screen.findByText("Waiting for approval")).toBeDefined();
    expect(screen.getByText("Noor Haddad")).toBeDefined();
    expect(screen.getByText(/1 more draft needs your approval/)).toBeDefined();
  });

  it("says nothing of checking where all is known", async () => {
    serve({
      "/api/drafts": { mine: [draft("a", "Loans", true)], waiting: [], judging: 0, discarded: [] },
    });
    show(<DraftsPage />, "/drafts");
    expect(await screen.findByText("Loans")).toBeDefined();
    expect(screen.queryByText(/Checking whether/)).toBeNull();
    const headers = screen.getAllByRole("columnheader").map((it) => it.textContent);
    expect(headers).toContain("Action");
    expect(headers, "each column has a name for those who can't see it").not.toContain("");
  });

  it("makes an open draft the active one, and restores a discarded one", async () => {
    const aside = { ...draft("a", "Loans", true), state: "aside" };
    const gone = { ...draft("b", "Guards", true), state: "discarded" };
    const calls = serve({
      "/api/drafts": { mine: [aside], waiting: [], judging: 0, discarded: [gone] },
      "PATCH /api/drafts/:id": {},
    });
    show(<DraftsPage />, "/drafts");
    await userEvent.click(await screen.findByRole("button", { name: "Make active: Loans" }));
    await userEvent.click(screen.getByRole("button", { name: "Restore: Guards" }));
    await waitFor(() => {
      const sent = calls.filter((it) => it.method === "PATCH");
      expect(sent.map((it) => [it.path, it.body])).toEqual([
        ["/api/drafts/a", { state: "open" }],
        ["/api/drafts/b", { state: "aside" }],
      ]);
    });
  });

  it("says when a draft was sent to the viewer", async () => {
    const request = {
      who: { key: "me", name: "Me" },
      state: "waiting",
      askedAt: "2026-01-02T09:00:00Z",
      remindedAt: "2026-01-03T09:00:00Z",
    };
    serve({
      "/api/drafts": {
        mine: [],
        waiting: [{ ...draft("b", "Night shift", false), request }],
        judging: 0,
        discarded: [],
      },
    });
    show(<DraftsPage />, "/drafts");
    expect(await screen.findByText(/sent to you 2 Jan 2026, reminded 3 Jan 2026/)).toBeDefined();
  });

  it("shows a refusal with what to do", async () => {
    serve({
      "/api/drafts": new Refusal(429, {
        title: "Too many calls at once",
        detail: "Wait for them.",
      }),
    });
    show(<DraftsPage />, "/drafts");
    expect(await screen.findByText(/Wait for them/)).toBeDefined();
  });
});
