import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { WhoContext } from "@/entities/session";
import { ACCOUNTS, person, Refusal, serve, show, type Call } from "@/shared/testing/served";
import { fatesOf, isComplete, standingInWords, usualCopy } from "./lifecycle";
import { keepMapping, keptMapping } from "./arrivals";
import { BringInPage } from "./pages/BringInPage";
import { CopyPage } from "./pages/CopyPage";
import { LendPage } from "./pages/LendPage";
import { MovePage } from "./pages/MovePage";
import { PartPage } from "./pages/PartPage";
import { ReturnPage } from "./pages/ReturnPage";
import { SplitPage } from "./pages/SplitPage";
import { EndNowDialog } from "./components/EndNowDialog";
import { PlannedActs } from "./components/PlannedActs";
import { SignInHelp } from "./components/SignInHelp";

function tie(id: string, sort: string, more: object = {}) {
  return {
    id,
    sort,
    text: `Tie ${id}`,
    thing: "groups",
    colleagues: { have: 3, of: 5 },
    usually: "keep",
    ...more,
  };
}

const TIES = {
  name: "Petra Lowe",
  elsewhere: false,
  groups: [{ key: "couriers", name: "Couriers", colleagues: { have: 4, of: 5 } }],
  ties: [
    tie("group:registrars", "access"),
    tie("assignment:lead", "access", { exception: "0 of 5 colleagues have it", usually: "end" }),
    tie("report:ada", "duty"),
  ],
};

const STANDING = {
  sessions: 2,
  tokens: 0,
  drafts: 1,
  rounds: 0,
  items: 0,
  planned: [],
  soleHolder: ["Loans lead"],
};

const PAGE = {
  person: {
    key: "petra",
    name: "Petra Lowe",
    thing: { kind: "person", email: "petra@q.example", attributes: { title: "Registrar" } },
  },
  state: "active",
  account: { key: "q", name: "Quillhaven" },
  unit: { key: "registry", name: "Registry" },
  groups: [],
  guests: [],
  reports: [],
  assignments: [],
  signIn: {
    password: true,
    secondFactor: false,
    sessions: [{ since: "2026-11-28T09:00:00Z", lastUsed: "2026-11-28T10:00:00Z" }],
  },
  cannot: {},
};

const COMMON = {
  "/api/accounts": ACCOUNTS,
  "/api/people/:key/ties": TIES,
  "/api/people/:key/standing": STANDING,
  "/api/rights/people/:key": PAGE,
  "/api/things/:kind": { things: [], total: 0 },
  "POST /api/people/:key/copies/preview": {},
};

function page(path: string, element: React.ReactElement) {
  return (
    <Routes>
      <Route path={path} element={element} />
      <Route path="/drafts/:id" element={<p>The draft</p>} />
      <Route path="/people/:key" element={<p>The person</p>} />
    </Routes>
  );
}

function bodies(calls: Call[], end: string): unknown[] {
  return calls.filter((it) => it.method === "POST" && it.path.endsWith(end)).map((it) => it.body);
}

describe("what becomes of ties", () => {
  it("is the usual unless chosen otherwise", () => {
    const ties = TIES.ties as Parameters<typeof fatesOf>[0];
    expect(fatesOf(ties, { "group:registrars": { becomes: "end" } })).toEqual({
      "group:registrars": { becomes: "end" },
      "assignment:lead": { becomes: "end" },
      "report:ada": { becomes: "keep" },
    });
    expect(usualCopy(ties)).toEqual(["group:registrars"]);
  });

  it("is complete once somebody takes over what is handed over", () => {
    expect(isComplete({ a: { becomes: "hand" } })).toBe(false);
    expect(isComplete({ a: { becomes: "hand", to: "ada" }, b: { becomes: "end" } })).toBe(true);
  });

  it("says what else ends", () => {
    expect(standingInWords(STANDING)).toEqual([
      "2 open sessions will end.",
      "1 draft will be discarded.",
      "No one else that you can see holds the role Loans lead.",
    ]);
  });
});

describe("copying a colleague", () => {
  it("leaves out what they have by exception, and leads to the draft", async () => {
    const calls = serve({
      ...COMMON,
      "POST /api/people/:key/copies": { draft: "d1", person: "juno" },
    });
    show(page("/people/:key/copy", <CopyPage />), "/people/petra/copy");
    const boxes = await screen.findAllByRole("checkbox", { name: /^Select Tie/ });
    expect(boxes.map((it) => (it as HTMLInputElement).checked)).toEqual([true, false]);
    const add = screen.getByRole("button", { name: "Add to draft" });
    expect((add as HTMLButtonElement).disabled).toBe(true);
    await userEvent.type(screen.getByRole("textbox", { name: "Name" }), "Juno Teasel");
    await userEvent.click(add);
    await screen.findByText("The draft");
    expect(bodies(calls, "/copies")).toEqual([
      { newcomer: { name: "Juno Teasel" }, ties: ["group:registrars"] },
    ]);
  });
});

describe("moving somebody", () => {
  it("sends what becomes of each thing and the groups to join", async () => {
    const calls = serve({
      ...COMMON,
      "POST /api/people/:key/moves": { draft: "d1", person: "petra" },
    });
    show(page("/people/:key/move", <MovePage />), "/people/petra/move");
    await screen.findByText("Tie group:registrars");
    expect(screen.getByRole("checkbox", { name: "Couriers (4 of 5)" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await screen.findByText("The draft");
    expect(bodies(calls, "/moves")).toEqual([
      {
        account: "q",
        unit: "registry",
        title: "Registrar",
        fates: {
          "group:registrars": { becomes: "keep" },
          "assignment:lead": { becomes: "end" },
          "report:ada": { becomes: "keep" },
        },
        joins: ["couriers"],
      },
    ]);
  });

  it("says why it can't be", async () => {
    serve({
      ...COMMON,
      "POST /api/people/:key/moves": new Refusal(409, {
        title: "It could not be done now",
        detail: "Ask Ilse.",
      }),
    });
    show(page("/people/:key/move", <MovePage />), "/people/petra/move");
    await userEvent.click(await screen.findByRole("button", { name: "Add to draft" }));
    expect(await screen.findByText("It could not be done now")).toBeDefined();
  });
});

describe("parting with somebody", () => {
  it("shows what else they have and what will have no one", async () => {
    const calls = serve({
      ...COMMON,
      "/api/people/:key/ties": { ...TIES, ties: [tie("report:ada", "duty", { usually: "end" })] },
      "POST /api/people/:key/parting": { draft: "d1", person: "petra" },
    });
    show(page("/people/:key/part", <PartPage />), "/people/petra/part");
    expect(await screen.findByText("2 open sessions will end.")).toBeDefined();
    expect(screen.getByText("1 duty will have no one.")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await screen.findByText("The draft");
    expect(bodies(calls, "/parting")).toEqual([{ fates: { "report:ada": { becomes: "end" } } }]);
  });
});

describe("what waits for somebody who leaves", () => {
  const NOOR = {
    "/api/people/choices": [{ kind: "person", key: "noor", name: "Noor Haddad" }],
    "/api/things/:kind": { things: [{ key: "noor", name: "Noor Haddad" }], total: 1 },
  };

  it("goes to whom is chosen, at once, and what stays is said", async () => {
    const calls = serve({
      ...COMMON,
      ...NOOR,
      "POST /api/people/:key/work": {
        drafts: 2,
        draftsLeft: 1,
        items: 1,
        itemsLeft: 0,
        rounds: 1,
        roundsLeft: 0,
      },
    });
    show(page("/people/:key/part", <PartPage />), "/people/petra/part");
    await userEvent.click(
      await screen.findByRole("button", { name: /Who takes over drafts and reviews/ }),
    );
    await userEvent.click(await screen.findByText("Noor Haddad"));
    expect(
      await screen.findByText(
        "Noor Haddad has 2 drafts and 1 review item now. Noor Haddad was asked to take over 1 review, by a notice. 1 draft stays: Noor Haddad can't read all of it or has too many.",
      ),
    ).toBeDefined();
    expect(bodies(calls, "/work")).toEqual([{ to: "noor" }]);
  });

  it("stays where it is when it is refused", async () => {
    serve({
      ...COMMON,
      ...NOOR,
      "POST /api/people/:key/work": new Refusal(409, {
        title: "They can't take it over",
        detail: "Choose another person who is active.",
      }),
    });
    show(page("/people/:key/part", <PartPage />), "/people/petra/part");
    await userEvent.click(
      await screen.findByRole("button", { name: /Who takes over drafts and reviews/ }),
    );
    await userEvent.click(await screen.findByText("Noor Haddad"));
    expect(await screen.findByText("They can't take it over")).toBeDefined();
    expect(screen.getByText("1 draft will be discarded.")).toBeDefined();
  });
});

describe("lending somebody", () => {
  it("asks for an account, an end and who answers, and proposes groups", async () => {
    const calls = serve({
      ...COMMON,
      "/api/people/:key/ties": {
        ...TIES,
        groups: [{ key: "desk", name: "Loans desk", colleagues: { have: 3, of: 4 } }],
      },
      "/api/people/choices": [{ kind: "person", key: "noor", name: "Noor Haddad" }],
      "/api/things/:kind": { things: [{ key: "noor", name: "Noor Haddad" }], total: 1 },
      "POST /api/people/:key/loans": { draft: "d1", person: "petra", planned: 4 },
    });
    show(page("/people/:key/lend", <LendPage />), "/people/petra/lend");
    const add = await screen.findByRole<HTMLButtonElement>("button", { name: "Add to draft" });
    expect(add.disabled).toBe(true);
    await userEvent.click(screen.getByRole("button", { name: /^Account/ }));
    expect(await screen.findByText("Larkmoor Trust")).toBeDefined();
    expect(screen.queryByRole("option", { name: "Quillhaven" })).toBeNull();
    await userEvent.click(screen.getByText("Larkmoor Trust"));
    await userEvent.click(await screen.findByRole("checkbox", { name: /Loans desk/ }));
    await userEvent.click(screen.getByRole("button", { name: /Who answers for them/ }));
    await userEvent.click(await screen.findByText("Noor Haddad"));
    await userEvent.type(screen.getByLabelText("End of the loan"), "2027-02-01{Enter}");
    await waitFor(() => expect(add.disabled).toBe(false));
    await userEvent.click(add);
    await screen.findByText("The draft");
    expect(bodies(calls, "/loans")).toEqual([
      {
        account: "trust",
        sponsor: "noor",
        until: expect.stringContaining("2027-0") as string,
        joins: ["desk"],
      },
    ]);
  });
});

describe("taking on a guest", () => {
  it("moves them to where they are one", async () => {
    const calls = serve({ ...COMMON, "POST /api/people/:key/moves": { draft: "d1" } });
    show(page("/people/:key/move", <MovePage />), "/people/petra/move?account=f");
    await userEvent.click(await screen.findByRole("button", { name: "Add to draft" }));
    await screen.findByText("The draft");
    expect(bodies(calls, "/moves")[0]).toMatchObject({ account: "f" });
    expect(bodies(calls, "/moves")[0]).not.toHaveProperty("unit");
  });
});

describe("coming back", () => {
  it("gives nothing by itself", async () => {
    const calls = serve({
      ...COMMON,
      "/api/people/:key/had": {
        left: "2026-10-01T00:00:00Z",
        fits: false,
        had: [{ id: "group:registrars", text: "Member of Registrars" }],
      },
      "POST /api/people/:key/return": { draft: "d1", person: "petra" },
    });
    show(page("/people/:key/return", <ReturnPage />), "/people/petra/return");
    const box = await screen.findByRole("checkbox", { name: "Select Member of Registrars" });
    expect((box as HTMLInputElement).checked).toBe(false);
    expect(screen.getByText(/What no longer exists is left out/)).toBeDefined();
    await userEvent.click(box);
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await screen.findByText("The draft");
    expect(bodies(calls, "/return")).toEqual([{ ties: ["group:registrars"] }]);
  });
});

describe("splitting a shared sign-in", () => {
  it("needs each name, and gives duties to one of them", async () => {
    const calls = serve({
      ...COMMON,
      "POST /api/people/:key/split": { draft: "d1", person: "petra" },
    });
    show(page("/people/:key/split", <SplitPage />), "/people/petra/split");
    await screen.findByText("Enter each name first.");
    await userEvent.type(screen.getByRole("textbox", { name: "Name of person 1" }), "One");
    await userEvent.type(screen.getByRole("textbox", { name: "Name of person 2" }), "Two");
    const second = screen.getByRole("region", { name: "Person 2" });
    await userEvent.click(
      within(second).getByRole("checkbox", { name: "Select Tie group:registrars" }),
    );
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await screen.findByText("The draft");
    expect(bodies(calls, "/split")).toEqual([
      {
        parts: [
          { newcomer: { name: "One" }, ties: [] },
          { newcomer: { name: "Two" }, ties: ["group:registrars"] },
        ],
        duties: { "report:ada": 0 },
      },
    ]);
  });
});

describe("ending everything now", () => {
  it("needs a reason and a code, and says what ended", async () => {
    serve({
      ...COMMON,
      "POST /api/people/:key/end-now": { revision: 12, sessions: 2, tokens: 1 },
    });
    show(
      <WhoContext value={person()}>
        <EndNowDialog page={PAGE as never} onClose={() => undefined} />
      </WhoContext>,
    );
    const end = await screen.findByRole("button", { name: "End all access now" });
    expect((end as HTMLButtonElement).disabled).toBe(true);
    await userEvent.type(screen.getByRole("textbox", { name: "Reason" }), "Lost laptop");
    await userEvent.type(
      screen.getByRole("textbox", { name: "Code of your second factor" }),
      "123456",
    );
    await userEvent.click(end);
    expect(await screen.findByText("Petra Lowe has no access now")).toBeDefined();
    expect(screen.getByText(/Revision 12. 2 sessions ended, 1 token revoked/)).toBeDefined();
  });
});

describe("helping somebody to sign in", () => {
  it("sends a link, and shows no first password to who has one", async () => {
    const calls = serve({
      ...COMMON,
      "POST /api/people/:key/invitation": { address: "petra@q.example" },
      "POST /api/people/:key/sign-out": { sessions: 1 },
    });
    show(<SignInHelp page={PAGE as never} />);
    expect(screen.queryByRole("button", { name: "Make a first password" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Send a link for a new password" }));
    expect(await screen.findByText("Sent to petra@q.example.")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Sign out everywhere" }));
    expect(await screen.findByText("1 session ended.")).toBeDefined();
    expect(bodies(calls, "/sign-out")).toHaveLength(1);
  });

  it("shows a first password once", async () => {
    serve({ ...COMMON, "POST /api/people/:key/first-password": { password: "abcd-efgh" } });
    const invited = { ...PAGE, state: "invited", signIn: { ...PAGE.signIn, password: false } };
    show(<SignInHelp page={invited as never} />);
    expect(screen.getByRole("button", { name: "Send invitation again" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Make a first password" }));
    expect(await screen.findByText("abcd-efgh")).toBeDefined();
  });
});

describe("what is planned", () => {
  it("is shown with why it waits, and taken back", async () => {
    const calls = serve({
      ...COMMON,
      "/api/people/:key/standing": {
        ...STANDING,
        planned: [
          {
            number: 7,
            said: "Leaves",
            due: "2027-01-01T00:00:00Z",
            owner: "Ilse Varga",
            heldUp: "Its owner is not active.",
          },
        ],
      },
      "DELETE /api/people/:key/planned/:number": {},
    });
    show(<PlannedActs of="petra" />);
    expect(await screen.findByText(/^Leaves on 1 Jan 2027/)).toBeDefined();
    expect(screen.getByText("Its owner is not active.")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Take back" }));
    await waitFor(() =>
      expect(calls.some((it) => it.method === "DELETE" && it.path.endsWith("/planned/7"))).toBe(
        true,
      ),
    );
  });
});

describe("bringing many in", () => {
  const seen = {
    columns: ["who", "mail"],
    facts: ["name", "email"],
    mapping: { name: "who" },
    fresh: 2,
    known: 1,
    faulty: 1,
    rows: [
      { line: 3, state: "faulty", name: "", email: "x", faults: ["There is no name."] },
      { line: 4, state: "known", name: "Ada", email: "a@q.example", person: "ada", faults: [] },
    ],
  };

  it("shows errors first, takes the rest and gives the others back", async () => {
    const calls = serve({
      ...COMMON,
      "POST /api/people/arrivals/look": seen,
      "POST /api/people/arrivals": {
        draft: "d1",
        fresh: 2,
        known: 1,
        faulty: 1,
        left: "who,mail,why it was not taken",
      },
    });
    show(<BringInPage />, "/bring-in?in=q");
    await userEvent.type(screen.getByRole("textbox", { name: "Addresses or a table" }), "who,mail");
    expect(await screen.findByText("There is no name.")).toBeDefined();
    expect(screen.getByRole("link", { name: "Ada" }).getAttribute("href")).toBe("/people/ada");
    expect(screen.getByText("2 new people · 1 already here · 1 row with errors")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add 2 people to draft" }));
    expect(await screen.findByRole("button", { name: "Export the 2 other rows" })).toBeDefined();
    expect(bodies(calls, "/arrivals")).toHaveLength(1);
  });

  it("keeps a mapping for tables with the same columns", () => {
    keepMapping("who,mail", { name: "who" });
    expect(keptMapping("who,mail")).toEqual({ name: "who" });
    expect(keptMapping("other")).toEqual({});
    localStorage.setItem("mandala.columns.other", "no JSON");
    expect(keptMapping("other")).toEqual({});
  });
});
