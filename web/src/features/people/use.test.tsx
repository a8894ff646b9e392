import { fireEvent, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { Refusal, serve, show, type Call } from "@/shared/testing/served";
import { UseOfAccess } from "./components/UseOfAccess";
import { UsePage } from "./pages/UsePage";

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

const OPTIONS = { others: false, split: true, clauses: 24, untouched: [], rareDays: 5 };

const JOB = {
  id: "j1",
  kind: "trim",
  title: "Trim the access of Ada Finch",
  details: { of: ["person:ada"], ...OPTIONS },
  state: "done",
  done: 1,
  begun: "2026-11-30T09:00:00Z",
  ended: "2026-11-30T09:00:05Z",
  answered: true,
  bytes: 0,
};

const TRIM: Schemas["TrimAnswer"] = {
  revision: 7,
  name: "Ada Finch",
  people: 1,
  part: false,
  days: 180,
  before: 5000,
  floor: 100,
  own: 1000,
  ownFloor: 90,
  narrows: true,
  steps: [
    {
      said: ["Ada Finch no longer gets Loans lead"],
      why: "its 1 holder did not need it in 180 days",
      narrowed: false,
      kind: "assignments",
      key: "ada-lead",
    },
    {
      said: ["Ada Finch gets Views loans instead of Loans"],
      why: "1 of 1 holder keeps what they need; the rest was not needed in 180 days",
      narrowed: true,
      kind: "assignments",
      key: "ada-loans",
    },
  ],
  points: [
    { steps: 1, after: 4200, own: 200, assignments: -1, added: 0 },
    { steps: 2, after: 4110, own: 110, assignments: -1, added: 2 },
  ],
  rareDays: 5,
  rare: [{ key: "ada-keys", said: "Ada Finch gets Keys", days: 2, last: "2026-09-01" }],
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
    await userEvent.click(await screen.findByRole("button", { name: /Options/ }));
    await userEvent.click(await screen.findByRole("checkbox", { name: /together with others/ }));
    await userEvent.click(screen.getByRole("button", { name: "Look for what can go" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({
        of: ["person:ada"],
        ...OPTIONS,
        others: true,
      }),
    );
  });

  const chosen = {
    ...found,
    "/api/excess/trims/:job": TRIM,
    "POST /api/excess/trims/:job/draft": { draft: "d9" },
  };

  it("begins with what is safest, says why, and puts it into a draft", async () => {
    const calls = showUse(EXCESS, chosen, "/?trim=1");
    expect(await screen.findByText("1,000 → 200, of which 90 is needed")).toBeDefined();
    expect(
      screen.getByText("Safe because its 1 holder did not need it in 180 days."),
    ).toBeDefined();
    expect(screen.queryByText(/instead of Loans/)).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Add 1 change to a new draft" }));
    const link = await screen.findByRole("link", { name: "Open the draft" });
    expect(link.getAttribute("href")).toBe("/drafts/d9");
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({ steps: 1 });
  });

  it("goes further by the keyboard, and makes the rarely used just-in-time", async () => {
    const calls = showUse(EXCESS, chosen, "/?trim=1");
    const slider = await screen.findByRole("slider", { name: "How far to trim" });
    fireEvent.keyDown(slider, { key: "ArrowRight", keyCode: 39 });
    expect(await screen.findByText("1,000 → 110, of which 90 is needed")).toBeDefined();
    expect(screen.getByText(/instead of Loans/)).toBeDefined();
    expect(screen.getByText("−1, 2 new statements")).toBeDefined();
    await userEvent.click(screen.getByText("Just-in-time"));
    await userEvent.click(screen.getByRole("button", { name: "Add 3 changes to a new draft" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({
        steps: 2,
        justInTime: ["ada-keys"],
      }),
    );
  });

  it("looks again without what is to stay as it is", async () => {
    const calls = showUse(
      EXCESS,
      { ...chosen, "POST /api/excess/trims": { ...JOB, id: "j2", state: "waiting" } },
      "/?trim=1",
    );
    await userEvent.click(await screen.findByRole("button", { name: "Leave as it is" }));
    await userEvent.click(await screen.findByRole("button", { name: "Look for what can go" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toMatchObject({
        untouched: ["assignments:ada-lead"],
      }),
    );
    expect(screen.getByRole("button", { name: /1 thing left as they are/ })).toBeDefined();
  });

  it("says where nothing can go", async () => {
    showUse(
      EXCESS,
      { ...found, "/api/excess/trims/:job": { ...TRIM, steps: [], points: [], rare: [] } },
      "/?trim=1",
    );
    expect(await screen.findByText("Nothing can go")).toBeDefined();
  });
});

const STUDY: Schemas["StudyAnswer"] = {
  name: "Registrars",
  at: "2026-11-30T09:00:00Z",
  days: 90,
  first: "2026-09-02",
  historyShort: false,
  part: true,
  people: 2,
  total: {
    name: "All",
    rights: 300,
    needed: 100,
    young: 0,
    unobserved: 0,
    unused: 200,
    exposure: 1500,
    unusedExposure: 900,
  },
  rows: [
    {
      key: "ada",
      name: "Ada Finch",
      kind: "person",
      account: "Quillhaven",
      rights: 200,
      needed: 20,
      young: 0,
      unobserved: 0,
      unused: 180,
      exposure: 1000,
      unusedExposure: 850,
    },
    {
      name: "Not signed in",
      rights: 100,
      needed: 80,
      young: 0,
      unobserved: 0,
      unused: 20,
      exposure: 500,
      unusedExposure: 50,
    },
  ],
};

describe("what several people use", () => {
  const job = {
    ...JOB,
    kind: "use-of-access",
    details: { of: ["group:registrars"], days: 90 },
  };

  it("works it out where nothing is known, and asks nothing twice", async () => {
    const calls = serve({
      "/api/jobs": { jobs: [] },
      "POST /api/excess/studies": { ...job, state: "waiting" },
    });
    show(<UsePage />, "/?of=group%3Aregistrars&days=90");
    await waitFor(() => expect(calls.filter((it) => it.method === "POST")).toHaveLength(1));
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({
      of: ["group:registrars"],
      days: 90,
    });
  });

  it("tells each of them, the worst first, with a way to their page", async () => {
    serve({
      "/api/jobs": { jobs: [job] },
      "/api/jobs/:id": job,
      "/api/excess/studies/:job": STUDY,
    });
    show(<UsePage />, "/?of=group%3Aregistrars&days=90");
    expect(await screen.findByText("Use of access: Registrars")).toBeDefined();
    expect(screen.getByText("900 · 60 %")).toBeDefined();
    expect(screen.getByText(/whole access you can't see are left out/)).toBeDefined();
    const link = screen.getByRole("link", { name: "Ada Finch" });
    expect(link.getAttribute("href")).toBe("/people/ada?tab=use&days=90");
    expect(screen.getByText("85 %")).toBeDefined();
    expect(screen.getByRole("button", { name: "Trim access" })).toBeDefined();
  });

  it("says what to do where nobody is chosen", async () => {
    serve({});
    show(<UsePage />, "/");
    expect(await screen.findByText("Nobody is chosen")).toBeDefined();
  });
});
