import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import {
  colleaguesOf,
  lastUseOf,
  nextLeft,
  noteOf,
  reasonFor,
  subjectsOf,
  takesOf,
} from "@/entities/decision/model";
import type { Item, ItemDetail, MyItems } from "@/entities/decision/queries";
import { Refusal, serve, show } from "@/shared/testing/served";
import { isHasty, orderOf, paceInWords, stageInWords, TEMPLATES, type Template } from "./model";
import { DecidePage } from "./pages/DecidePage";
import { ReviewsPage } from "./pages/ReviewsPage";

function item(number: number, more: Partial<Item> = {}): Item {
  return {
    round: 2,
    number,
    id: `assignment a${number}`,
    kind: "assignment",
    aboutKind: "principals",
    about: "odile",
    aboutName: "Odile Farrow",
    aboutNote: "Registrar",
    said: `Role ${number} on Loans desk`,
    risk: "low",
    takes: 10,
    exposure: 10,
    recommended: "keep",
    alike: `assignment ${number}`,
    stage: 0,
    state: "open",
    changed: false,
    with: [],
    ...more,
  };
}

const FIGURE = { rights: 0, sectors: [] };

function detail(row: Item, more: Partial<ItemDetail> = {}): ItemDetail {
  return {
    row,
    facts: "f1",
    activated: false,
    takes: 10,
    gives: 0,
    stays: 0,
    permissions: [
      { key: "p", name: "Approve loans", accessClass: "change", risk: "high", places: 10 },
    ],
    otherPermissions: 0,
    with: [],
    figure: FIGURE,
    without: FIGURE,
    use: { days: 180, line: [0, 2, 0], observed: true, last: "2026-05-03" },
    conflicts: [],
    findings: [],
    reductions: [{ key: "end", label: "End it on a date", says: [], until: true }],
    history: [],
    advice: {
      verdict: "remove",
      reasons: ["Nothing that only it grants was used"],
      certainty: "high",
    },
    ...more,
  };
}

function mine(items: Item[]): MyItems {
  return {
    round: 2,
    title: "Quarterly",
    state: "open",
    ends: "2026-12-14T00:00:00Z",
    stages: 1,
    passTo: [{ key: "anselm", name: "Anselm Reeve" }],
    items,
  };
}

const EFFECT = {
  decided: 1,
  changes: 1,
  people: 1,
  lost: 10,
  gained: 0,
  faulty: false,
  others: false,
  broken: [],
};

function showPage() {
  show(
    <Routes>
      <Route path="/reviews/:round" element={<DecidePage />} />
    </Routes>,
    "/reviews/2",
  );
}

describe("items", () => {
  it("come by whose they are, the harmful first, without those that are gone", () => {
    const subjects = subjectsOf([
      item(1, { about: "ada", aboutName: "Ada" }),
      item(2, { risk: "critical" }),
      item(3, { about: "ada", aboutName: "Ada", risk: "high" }),
      item(4, { state: "gone", risk: "critical", about: "bas" }),
    ]);
    expect(subjects.map((it) => it.name)).toEqual(["Odile Farrow", "Ada"]);
    expect(subjects[1]?.items.map((it) => it.number)).toEqual([3, 1]);
    expect(nextLeft(subjects, 2)).toBe(3);
    expect(nextLeft(subjects, 1)).toBe(2);
  });

  it("say how much is left, and what was decided", () => {
    const [left] = subjectsOf([item(1, { recommended: "remove" }), item(2)]);
    expect(left && noteOf(left)).toBe("2 items · 1 recommended to remove");
    const [done] = subjectsOf([
      item(1, { state: "decided", verdict: "keep" }),
      item(2, { state: "done", verdict: "remove" }),
    ]);
    expect(done && noteOf(done)).toBe("done · 1 kept · 1 removed");
  });

  it("say what a removal takes, and when it takes nothing", () => {
    const row = item(1);
    expect(takesOf(detail(row, { takes: 212, stays: 40 }))).toBe(
      "212 rights; 40 more stay by something else",
    );
    expect(takesOf(detail(row, { takes: 0, stays: 40 }))).toBe(
      "Nothing: 40 rights stay by something else",
    );
    expect(takesOf(detail(row, { takes: 0, stays: 0 }))).toBe("Nothing now");
  });

  it("ask for a reason to keep risk, or against the recommendation", () => {
    expect(reasonFor(item(1))).toBeUndefined();
    expect(reasonFor(item(1, { risk: "high" }))).toContain("high risk");
    expect(reasonFor(item(1, { recommended: "remove" }))).toBe(
      "The recommendation is to remove it",
    );
  });

  it("tell of use and colleagues in words", () => {
    const row = item(1);
    const colleagues = { basis: "title" as const, all: "13", having: "few", using: "few" };
    expect(colleaguesOf(detail(row, { colleagues }))).toBe(
      "few of 13 with the same title have it, few use it",
    );
    expect(lastUseOf(detail(row))).toBe("last on 3 May 2026");
    const unknown = { days: 180, line: [], observed: false };
    expect(lastUseOf(detail(row, { use: unknown }))).toBe("no system reports its use");
  });
});

describe("deciding", () => {
  const RISKY = item(1, { risk: "high", recommended: "remove" });

  function served(one: ItemDetail, rows = [RISKY, item(2)]) {
    return serve({
      "GET /api/reviews/2/items": mine(rows),
      [`GET /api/reviews/2/items/${one.row.number}`]: one,
      "GET /api/accounts": { people: false, accounts: [] },
      [`PUT /api/reviews/2/items/${one.row.number}/decision`]: {
        ...one.row,
        state: "decided",
        verdict: "remove",
      },
      "GET /api/reviews/2/effect": EFFECT,
    });
  }

  it("removes with one key, and says what is about to go", async () => {
    const calls = served(detail(RISKY));
    showPage();
    expect(await screen.findByText("10 rights")).toBeTruthy();
    expect((await screen.findByText(/Recommended:/)).textContent).toContain("remove, sure");
    await userEvent.keyboard("3");
    await waitFor(() => {
      const put = calls.find((it) => it.method === "PUT");
      expect(put?.body).toMatchObject({ verdict: "remove", facts: "f1" });
    });
  });

  it("asks for a reason before it keeps risk", async () => {
    const calls = served(detail(RISKY));
    showPage();
    await userEvent.click(await screen.findByRole("button", { name: "Keep…" }));
    const dialog = await screen.findByRole("dialog");
    const keep = within(dialog).getByRole("button", { name: "Keep" });
    expect(keep).toHaveProperty("disabled", true);
    await userEvent.type(within(dialog).getByLabelText("Reason"), "Covers for Lotte");
    await userEvent.click(keep);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")?.body).toMatchObject({
        verdict: "keep",
        reason: "Covers for Lotte",
      }),
    );
  });

  it("offers the set that does where another route defeats a removal", async () => {
    const row = item(1, { recommended: "remove" });
    const calls = served(
      detail(row, {
        takes: 0,
        stays: 7,
        with: [{ id: "member registrars odile", said: "Member of Registrars" }],
      }),
      [row],
    );
    showPage();
    expect(await screen.findByText("Nothing: 7 rights stay by something else")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Remove…" }));
    const dialog = await screen.findByRole("dialog");
    expect(within(dialog).getByText(/Also remove Member of Registrars/)).toBeTruthy();
    await userEvent.click(within(dialog).getByRole("button", { name: "Remove" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")?.body).toMatchObject({
        with: ["member registrars odile"],
      }),
    );
  });

  it("says so where somebody else decides what one looks at", async () => {
    let items = [item(1, { risk: "high" }), item(2)];
    serve({
      "GET /api/reviews/2/items": () => mine(items),
      "GET /api/reviews/2/items/1": detail(item(1, { risk: "high" })),
      "GET /api/reviews/2/items/2": detail(item(2)),
      "GET /api/accounts": { people: false, accounts: [] },
      "GET /api/reviews/2/effect": EFFECT,
      "PUT /api/reviews/2/items/1/decision": () => {
        items = items.slice(1);
        return new Refusal(404, { title: "Not found", detail: "Somebody else decides it." });
      },
    });
    showPage();
    await userEvent.click(await screen.findByRole("button", { name: "Remove" }));
    expect(await screen.findByText(/no longer yours: somebody else decides it/)).toBeTruthy();
    expect(screen.getByText("1 of 1 decision left")).toBeTruthy();
  });

  it("blocks what would break an expectation until somebody answers for it", async () => {
    const row = item(1, { state: "decided", verdict: "remove" });
    serve({
      "GET /api/reviews/2/items": mine([row]),
      "GET /api/reviews/2/items/1": detail(row),
      "GET /api/accounts": { people: false, accounts: [] },
      "GET /api/reviews/2/effect": {
        ...EFFECT,
        broken: [{ key: "two", name: "Two can approve", said: "At least two can approve" }],
      },
    });
    showPage();
    expect(await screen.findByText(/“Two can approve” would break/)).toBeTruthy();
    expect(screen.getByRole("button", { name: "Finish 1 decision" })).toHaveProperty(
      "disabled",
      true,
    );
    expect(screen.getByText(/1 person loses 10 rights; nobody gains/)).toBeTruthy();
  });
});

describe("rounds", () => {
  it("begin from templates in an account", () => {
    const order = orderOf(TEMPLATES[0] as Template, "larkmoor", new Date("2026-12-01T09:00:00Z"));
    expect(order).toMatchObject({
      contents: ["people", "guests"],
      accounts: ["larkmoor"],
      risk: "high",
      begins: "2026-12-01T00:00:00Z",
      ends: "2026-12-15T00:00:00Z",
    });
  });

  it("say who decides, and who seems to wave items through", () => {
    expect(stageInWords(["manager", "person:ilse"], () => "Ilse Varga")).toBe(
      "their managers, else Ilse Varga",
    );
    expect(paceInWords(4.2)).toBe("4 s");
    expect(paceInWords(600)).toBe("10 min");
    expect(isHasty({ kept: 20, keeps: 1, pace: 2, controlsKept: 0 })).toBe(true);
    expect(isHasty({ kept: 20, keeps: 1, pace: 60, controlsKept: 0 })).toBe(false);
    expect(isHasty({ kept: 1, keeps: 1, controlsKept: 1 })).toBe(true);
  });

  it("show what waits, and nothing to run for who may not", async () => {
    serve({
      "GET /api/reviews": {
        accounts: [],
        mine: [
          { number: 2, title: "Quarterly", ends: "2026-12-14T00:00:00Z", items: 9, decided: 2 },
        ],
        runs: [],
        reads: false,
        audits: [],
        asked: [],
      },
    });
    show(<ReviewsPage />);
    expect(await screen.findByText(/7 of 9 decisions left/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: "New review" })).toBeNull();
  });
});
