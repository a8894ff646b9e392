import { screen } from "@testing-library/react";
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
    serve({ "/api/drafts": { mine: [draft("a", "Loans", true)], waiting: [], judging: 3 } });
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
      },
    });
    show(<DraftsPage />, "/drafts");
    expect(await screen.findByText("Waiting for approval")).toBeDefined();
    expect(screen.getByText("Noor Haddad")).toBeDefined();
    expect(screen.getByText(/1 more draft needs your approval/)).toBeDefined();
  });

  it("says nothing of checking where all is known", async () => {
    serve({ "/api/drafts": { mine: [draft("a", "Loans", true)], waiting: [], judging: 0 } });
    show(<DraftsPage />, "/drafts");
    expect(await screen.findByText("Loans")).toBeDefined();
    expect(screen.queryByText(/Checking whether/)).toBeNull();
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
