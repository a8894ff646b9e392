import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { eventInWords, newRule } from "./model";
import { EventRulePage } from "./pages/EventRulePage";
import { NewRoundPage } from "./pages/NewRoundPage";
import { ReviewsPage } from "./pages/ReviewsPage";
import { RoundPage } from "./pages/RoundPage";
import type { Effects, KeptRule, Reviewer, Round } from "./queries";

const ACCOUNTS = {
  people: false,
  accounts: [{ key: "fernwick", name: "Fernwick", path: ["Fernwick"] }],
};

function kept(more: Partial<KeptRule> = {}): KeptRule {
  return {
    number: 4,
    rule: { ...newRule("fernwick"), stages: [{ order: ["manager"] }] },
    ownerName: "Anselm Reeve",
    since: "2026-11-01T00:00:00Z",
    rounds: 2,
    ...more,
  };
}

function round(more: Partial<Round> = {}): Round {
  return {
    number: 7,
    title: "Quarterly",
    order: {
      title: "Quarterly",
      contents: ["people"],
      accounts: [],
      risk: "high",
      only: "all",
      detectors: [],
      stages: [{ order: ["manager"] }],
      begins: "2026-12-01T00:00:00Z",
      ends: "2026-12-15T00:00:00Z",
      passOn: true,
      controls: 0,
      repeats: "never",
    },
    ownerName: "Anselm Reeve",
    state: "open",
    begins: "2026-12-01T00:00:00Z",
    ends: "2026-12-15T00:00:00Z",
    late: false,
    items: 40,
    finished: 10,
    ...more,
  };
}

function reviewer(more: Partial<Reviewer> = {}): Reviewer {
  return {
    who: "tomas",
    name: "Tomas Brandt",
    items: 9,
    left: 4,
    kept: 5,
    reduced: 0,
    removed: 0,
    controls: 0,
    controlsKept: 0,
    ...more,
  };
}

const LIST = {
  accounts: ["fernwick"],
  mine: [],
  runs: [],
  reads: true,
  audits: [],
  asked: [],
};

const EFFECTS: Effects = {
  late: false,
  left: 4,
  due: 0,
  waiting: 0,
  inForce: 0,
  answered: 0,
  returned: 0,
  drafts: [],
  unsettled: [],
  others: false,
};

const showRule = (number: string) =>
  show(
    <Routes>
      <Route path="/reviews" element={<p>All reviews</p>} />
      <Route path="/reviews/rules/:rule" element={<EventRulePage />} />
    </Routes>,
    `/reviews/rules/${number}`,
  );

describe("rules", () => {
  it("say in words when they make a review", async () => {
    serve({
      "GET /api/reviews": LIST,
      "GET /api/accounts": ACCOUNTS,
      "GET /api/reviews/rules": {
        rules: [kept(), kept({ number: 5, heldUp: "Its owner is not active", rounds: 0 })],
      },
    });
    show(<ReviewsPage />);
    const rules = await screen.findByRole("region", { name: "By event" });
    expect(
      (
        await within(rules).findAllByText(
          /When somebody moves in Fernwick.*decided by their managers/,
        )
      )[0]?.textContent,
    ).toBe("When somebody moves in Fernwick: all access, decided by their managers, within 7 days");
    expect(within(rules).getByText("2 reviews")).toBeTruthy();
    expect(within(rules).getByText("waits for its owner")).toBeTruthy();
    expect(within(rules).getByText("none yet")).toBeTruthy();
  });

  it("are made from a sentence", async () => {
    const calls = serve({
      "GET /api/reviews": LIST,
      "GET /api/accounts": ACCOUNTS,
      "GET /api/reviews/rules": { rules: [] },
      "POST /api/reviews/rules": kept(),
    });
    showRule("new");
    await userEvent.click(await screen.findByRole("button", { name: "When: somebody moves" }));
    await userEvent.click(await screen.findByText("a guest's end comes near"));
    await userEvent.click(screen.getByRole("button", { name: "Days before: 14 days" }));
    const days = await screen.findByRole("spinbutton", { name: "Days before" });
    await userEvent.clear(days);
    await userEvent.type(days, "30{Enter}");
    expect(screen.getByText(/Keeping a guest membership does not prolong it/)).toBeTruthy();
    await userEvent.clear(screen.getByRole("textbox", { name: "Title" }));
    await userEvent.type(screen.getByRole("textbox", { name: "Title" }), "Guests who leave");
    await userEvent.click(screen.getByRole("button", { name: "Make rule" }));
    expect(await screen.findByText("All reviews")).toBeTruthy();
    expect(calls.find((it) => it.method === "POST")?.body).toMatchObject({
      title: "Guests who leave",
      event: "ending",
      within: 30,
      accounts: ["fernwick"],
    });
    expect(eventInWords("ending", 30)).toBe("a guest's end is 30 days away");
  });

  it("are changed and ended, and say why they can't be", async () => {
    const calls = serve({
      "GET /api/reviews": LIST,
      "GET /api/accounts": ACCOUNTS,
      "GET /api/reviews/rules": { rules: [kept()] },
      "PUT /api/reviews/rules/4": new Refusal(403, {
        title: "You may not run this review",
        detail: "Ask an owner of Fernwick.",
      }),
      "DELETE /api/reviews/rules/4": { rules: [] },
    });
    showRule("4");
    await userEvent.click(await screen.findByRole("button", { name: "Save rule" }));
    expect(await screen.findByText("Ask an owner of Fernwick.")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "End rule" }));
    await userEvent.click((await screen.findAllByRole("button", { name: "End rule" })).at(-1)!);
    expect(await screen.findByText("All reviews")).toBeTruthy();
    expect(calls.some((it) => it.method === "DELETE")).toBe(true);
  });

  it("that are not there say so", async () => {
    serve({
      "GET /api/reviews": LIST,
      "GET /api/accounts": ACCOUNTS,
      "GET /api/reviews/rules": { rules: [kept()] },
    });
    showRule("9");
    expect(await screen.findByText(/One that has ended is not listed/)).toBeTruthy();
  });
});

describe("a round's page", () => {
  const showRound = () =>
    show(
      <Routes>
        <Route path="/reviews/:round/round" element={<RoundPage />} />
      </Routes>,
      "/reviews/7/round",
    );

  it("shows who decides how, why it was made, and who should be looked at", async () => {
    serve({
      "GET /api/reviews/7/effects": EFFECTS,
      "GET /api/reviews/7": {
        round: round({ cause: "somebody moved", revision: 41 }),
        reviewers: [
          reviewer({ keeps: 1, pace: 2 }),
          reviewer({ who: "noemi", name: "Noemi Mbeki", left: 0, controls: 2, controlsKept: 0 }),
        ],
      },
    });
    showRound();
    expect(await screen.findByText(/made because somebody moved/)).toBeTruthy();
    const rows = screen.getAllByRole("row");
    expect(rows.some((it) => /Tomas Brandt look closer/.test(it.textContent))).toBe(true);
    expect(screen.getByText("0 of 2")).toBeTruthy();
    expect(screen.getAllByRole("button", { name: "Give to…" })).toHaveLength(1);
  });

  it("is cancelled with a reason only", async () => {
    const calls = serve({
      "GET /api/reviews/7/effects": EFFECTS,
      "GET /api/reviews/7": { round: round(), reviewers: [] },
      "POST /api/reviews/7/cancel": { round: round({ state: "cancelled" }), reviewers: [] },
    });
    showRound();
    await userEvent.click(await screen.findByRole("button", { name: "Cancel review" }));
    const dialog = await screen.findByRole("dialog");
    const sure = within(dialog).getByRole("button", { name: "Cancel review" });
    expect(sure).toHaveProperty("disabled", true);
    await userEvent.type(within(dialog).getByRole("textbox", { name: "Reason" }), "Too early");
    await userEvent.click(sure);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({ reason: "Too early" }),
    );
  });

  it("says that it is over, and offers nothing to do", async () => {
    serve({
      "GET /api/reviews/7/effects": EFFECTS,
      "GET /api/reviews/7": {
        round: round({ state: "cancelled", reason: "Too early" }),
        reviewers: [reviewer()],
      },
    });
    showRound();
    expect(await screen.findByText("Cancelled: Too early")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Cancel review" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Give to…" })).toBeNull();
  });
});

describe("a new round", () => {
  const PREVIEW = {
    items: 12,
    subjects: 5,
    loads: [{ who: "tomas", name: "Tomas Brandt", items: 12 }],
    reviewers: 1,
    nobody: 0,
    without: [],
    conflicts: 1,
  };

  it("is counted before it begins, and begins as a job", async () => {
    const calls = serve({
      "GET /api/reviews": LIST,
      "GET /api/accounts": ACCOUNTS,
      "POST /api/reviews/preview": PREVIEW,
      "POST /api/reviews": new Refusal(409, {
        title: "Nothing is in this round",
        detail: "Choose other contents.",
      }),
    });
    show(<NewRoundPage />);
    expect(await screen.findByText(/12 items of/)).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Add a step" }));
    await userEvent.click(screen.getByRole("button", { name: "Begin review" }));
    expect(await screen.findByText("Choose other contents.")).toBeTruthy();
    expect(
      calls.find((it) => it.path === "/api/reviews" && it.method === "POST")?.body,
    ).toMatchObject({ accounts: ["fernwick"], stages: [{}, { order: ["account-owner"] }] });
  });

  it("can't begin where nothing is in it, nor be made by who may not run reviews", async () => {
    serve({
      "GET /api/reviews": LIST,
      "GET /api/accounts": ACCOUNTS,
      "POST /api/reviews/preview": { ...PREVIEW, items: 0, subjects: 0, loads: [], reviewers: 0 },
    });
    show(<NewRoundPage />);
    await waitFor(() =>
      expect(screen.getByRole("button", { name: "Begin review" })).toHaveProperty("disabled", true),
    );
  });
});
