import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { Refusal, serve, show, type Call } from "@/shared/testing/served";
import { UseOfAccess } from "./components/UseOfAccess";

const PAGE = {
  person: { key: "ada", name: "Ada Finch", kind: "principals", thing: {} },
  account: { key: "q", name: "Quillhaven" },
} as unknown as Schemas["PersonPage"];

const FIGURE = { rights: 0, sectors: [] };

const EXCESS: Schemas["ExcessAnswer"] = {
  at: "2026-11-30T09:00:00Z",
  days: 180,
  first: "2026-06-04",
  historyShort: false,
  part: false,
  rights: 200,
  needed: 20,
  young: 10,
  unobserved: 1,
  unused: 169,
  exposure: 1000,
  unusedExposure: 900,
  whole: FIGURE,
  used: FIGURE,
  kept: FIGURE,
  permissions: [
    {
      key: "loan.approve",
      name: "Approve loans",
      accessClass: "administer",
      risk: "high",
      places: 3,
      colleagues: 13,
      colleaguesUsing: 1,
    },
    {
      key: "loan.view",
      name: "View loans",
      accessClass: "view",
      risk: "low",
      places: 9,
      lastUsed: "2026-05-02",
    },
  ],
};

const JOB = {
  id: "j1",
  kind: "trim",
  title: "Trim the access of Ada Finch",
  details: { principal: "ada", others: false },
  state: "done",
  done: 1,
  begun: "2026-11-30T09:00:00Z",
  ended: "2026-11-30T09:00:05Z",
  answered: true,
  bytes: 0,
};

const TRIM: Schemas["TrimAnswer"] = {
  revision: 7,
  principal: "ada",
  days: 180,
  before: 5000,
  floor: 100,
  own: 1000,
  narrows: true,
  points: [
    {
      tight: 0,
      after: 4200,
      own: 200,
      added: -2,
      steps: [
        {
          said: ["Ada Finch no longer gets Loans lead"],
          why: "its 1 holder did not need it in 180 days",
        },
      ],
    },
    { tight: 1, after: 4200, own: 200, added: 0, steps: [] },
  ],
};

function showUse(answer: object = EXCESS, more: object = {}, address = "/"): Call[] {
  const calls = serve({ "/api/excess": answer, "/api/jobs": { jobs: [] }, ...more });
  show(<UseOfAccess page={PAGE} />, address);
  return calls;
}

describe("what somebody uses", () => {
  it("says how much is used, new, not observed and not used", async () => {
    const calls = showUse();
    expect(await screen.findByText("169 · 85 %")).toBeDefined();
    expect(screen.getByText("10 · 5 %")).toBeDefined();
    expect(screen.getByText("1 · under 1 %")).toBeDefined();
    expect(screen.getByText("1,000, 90 % of it not used")).toBeDefined();
    expect(screen.getByText("You can't see the permissions of 157 more rights.")).toBeDefined();
    expect(calls[0]?.query).toEqual({ principal: "ada", draft: "open", in: "q", doors: "true" });
  });

  it("asks for the window of the address, and says where history is shorter", async () => {
    const calls = showUse({ ...EXCESS, days: 30, historyShort: true }, {}, "/?days=30");
    expect(await screen.findByText(/history is shorter than this window/)).toBeDefined();
    expect(screen.getByRole("heading", { name: "Not used in 30 days" })).toBeDefined();
    expect(calls[0]?.query["days"]).toBe("30");
  });

  it("leads back to the usual window where one is too long", async () => {
    const detail = "Use is kept since 1 Oct. Choose at most 61 days.";
    showUse(
      (call: Call) =>
        call.query["days"]
          ? new Refusal(400, { title: "The window is longer than what is kept", detail })
          : EXCESS,
      {},
      "/?days=365",
    );
    expect(await screen.findByText(detail)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Use the usual window" }));
    expect(await screen.findByText("169 · 85 %")).toBeDefined();
  });

  it("unfolds a permission into its places, with what speaks for each", async () => {
    const calls = showUse(EXCESS, {
      "/api/excess/rights": {
        keptSince: "2025-10-01",
        total: 4,
        hidden: 1,
        rights: [
          {
            resource: "loan-1",
            name: "Loan 1",
            days: 2,
            lastUsed: "2026-05-02",
            heldLonger: false,
            heldSince: "2026-01-05T08:00:00Z",
          },
          { resource: "loan-2", name: "Loan 2", days: 0, heldLonger: true },
          { resource: "loan-3", name: "Loan 3", days: 0, heldLonger: false },
        ],
      },
    });
    expect(await screen.findByText("1 of 13")).toBeDefined();
    expect(screen.getByText("no colleagues")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Approve loans" }));
    expect(await screen.findByText("2 May 2026, on 2 days in all")).toBeDefined();
    expect(screen.getAllByText("not since 1 Oct 2025")).toHaveLength(2);
    expect(screen.getByText("before the history begins")).toBeDefined();
    expect(screen.getByText("your draft")).toBeDefined();
    expect(screen.getByText("You can't see 1 place.")).toBeDefined();
    expect(calls.at(-1)?.query["permission"]).toBe("loan.approve");
  });

  it("offers no trim to who sees only part, or where all is used", async () => {
    showUse({ ...EXCESS, young: undefined, part: true });
    expect(await screen.findByText("Used or new")).toBeDefined();
    expect(screen.queryByRole("button", { name: "Trim access" })).toBeNull();
  });
});

describe("trimming", () => {
  const found = { "/api/jobs": { jobs: [JOB] }, "/api/jobs/:id": JOB };

  it("begins to look, for what they have alone unless others are wanted", async () => {
    const calls = showUse(EXCESS, { "POST /api/excess/trims": { ...JOB, state: "waiting" } });
    await userEvent.click(await screen.findByRole("button", { name: "Trim access" }));
    await userEvent.click(await screen.findByRole("checkbox", { name: /together with others/ }));
    await userEvent.click(screen.getByRole("button", { name: "Look for what can go" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({
        principal: "ada",
        others: true,
      }),
    );
  });

  it("says why each change is safe, and puts the chosen ones into a draft", async () => {
    const calls = showUse(
      EXCESS,
      {
        ...found,
        "/api/excess/trims/:job": TRIM,
        "POST /api/excess/trims/:job/draft": { draft: "d9" },
      },
      "/?trim=1",
    );
    expect(await screen.findAllByText("1,000 → 200")).toHaveLength(2);
    expect(
      screen.getByText("Safe because its 1 holder did not need it in 180 days."),
    ).toBeDefined();
    const tightest = screen.getByRole("radio", { name: "Keep exactly what is needed" });
    expect(tightest).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("button", { name: "Add 1 change to a new draft" }));
    const link = await screen.findByRole("link", { name: "Open the draft" });
    expect(link.getAttribute("href")).toBe("/drafts/d9");
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({ tight: 0 });
  });

  it("says where nothing can go, and why a proposal is not taken", async () => {
    showUse(
      EXCESS,
      { ...found, "/api/excess/trims/:job": { ...TRIM, points: [TRIM.points[1]] } },
      "/?trim=1",
    );
    expect(await screen.findByText("Nothing can go")).toBeDefined();
  });
});
