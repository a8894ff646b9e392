import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { openDraft, serve, show } from "@/shared/testing/served";
import { DraftStatus } from "./DraftStatus";

const active = { ...openDraft(2).draft, proposedName: "Ada joins Guards", foreign: false };

function status(more: object = {}) {
  const calls = serve({
    "/api/drafts/open/summary": {
      ...openDraft(2),
      draft: active,
      impact: "1 person gains 2 rights",
      toApprove: 0,
      ...more,
    },
    "/api/drafts": {
      mine: [active, { ...active, id: "d2", name: "Loans", size: 1, state: "aside" }],
      waiting: [],
      judging: 0,
      discarded: [],
    },
    "PATCH /api/drafts/:id": {},
    "POST /api/drafts": { ...openDraft(0), draft: { ...active, id: "d3" } },
  });
  show(<DraftStatus />);
  return calls;
}

describe("the active draft at the top", () => {
  it("is called by what it does, with its size and impact", async () => {
    status();
    expect(await screen.findByText("Ada joins Guards")).toBeDefined();
    expect(screen.getByText(/2 changes/)).toBeDefined();
    expect(screen.getByText("1 person gains 2 rights")).toBeDefined();
    expect(screen.queryByText(/to approve/)).toBeNull();
  });

  it("names errors before its impact, and what waits for one's approval", async () => {
    status({ faults: 1, clashes: 1, toApprove: 3 });
    expect(await screen.findByText("2 errors to fix")).toBeDefined();
    const link = screen.getByTitle("3 drafts sent to you for approval");
    expect(link.getAttribute("href")).toBe("/drafts");
  });

  it("gives way to another open draft", async () => {
    const calls = status();
    await userEvent.click(await screen.findByRole("button", { name: "Choose a draft" }));
    await userEvent.click(await screen.findByText("Loans · 1 change"));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PATCH")).toMatchObject({
        path: "/api/drafts/d2",
        body: { state: "open" },
      }),
    );
  });

  it("gives way to a new one, which opens", async () => {
    status();
    await userEvent.click(await screen.findByRole("button", { name: "Choose a draft" }));
    await userEvent.click(await screen.findByText("New draft"));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/drafts/d3"));
  });

  it("may be none", async () => {
    status({ draft: undefined });
    expect((await screen.findByText("No draft")).getAttribute("href")).toBe("/drafts");
  });
});
