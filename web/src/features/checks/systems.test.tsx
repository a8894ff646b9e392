import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import Systems from "./components/Systems";
import {
  kindOf,
  stateOf,
  whyOf,
  type Discrepancy,
  type DiscrepancyList,
  type System,
} from "./systems";

function difference(id: string, more: Partial<Discrepancy> = {}): Discrepancy {
  return {
    id,
    kind: "extra",
    said: `${id} is said`,
    who: "corin",
    whoName: "Corin Bladen",
    permission: "desk.open",
    place: "q-desk",
    held: ["Clerk, Quillhaven"],
    since: "2026-11-30T09:00:00Z",
    state: "new",
    mine: true,
    ...more,
  };
}

const SYSTEM: System = {
  key: "desk",
  name: "Loans desk",
  account: "quillhaven",
  accountName: "Quillhaven",
  identity: "user",
  entitlement: "level",
  place: "site",
  terms: 1,
  versions: [
    { version: 2, madeAt: "2026-11-29T09:00:00Z", madeBy: "Ilse Varga" },
    {
      version: 1,
      madeAt: "2026-11-28T09:00:00Z",
      madeBy: "Ilse Varga",
      triedAt: "2026-11-28T10:00:00Z",
    },
  ],
  comparedAt: "2026-11-30T09:00:00Z",
  mine: true,
};

const COMPARISON = {
  number: 1,
  at: "2026-11-30T09:00:00Z",
  by: "Ilse Varga",
  sent: true,
  terms: 1,
  lines: 41,
  kinds: { extra: 1, unknown: 1 },
  begun: 2,
  gone: 0,
};

const LIST: DiscrepancyList = {
  system: SYSTEM,
  discrepancies: [
    difference("one"),
    {
      id: "unknown x",
      kind: "unknown",
      said: "Nobody you can see has the identity 'x'",
      identity: "x",
      held: [],
      state: "new",
      mine: true,
    },
  ],
  total: 2,
  kinds: { extra: 1, unknown: 1 },
  comparisons: [COMPARISON],
  untranslated: { "entitlement Boss": 1 },
  agreeing: 111,
  outdated: false,
  elsewhere: true,
};

const JOB = {
  id: "j1",
  kind: "system-comparison",
  title: "Compare “Loans desk”",
  details: {},
  state: "done",
  done: 1,
  begun: "2026-11-30T09:00:00Z",
  ended: "2026-11-30T09:00:05Z",
  answered: true,
  bytes: 0,
};

function served(list: Partial<DiscrepancyList> = {}, system: Partial<System> = {}) {
  const one = { ...SYSTEM, ...system };
  return {
    "/api/systems": { accounts: ["quillhaven"], systems: [one] },
    "/api/systems/:system/discrepancies": { ...LIST, system: one, ...list },
    "/api/accounts": { accounts: [] },
    "/api/views": { views: [] },
    "/api/jobs": { jobs: [JOB] },
    "/api/jobs/:id": JOB,
    "/api/drafts/open/summary": {},
  };
}

const table = (name: string) => new File(["user,level,site\n"], name, { type: "text/csv" });

describe("a difference", () => {
  it("has a kind and a state in words", () => {
    expect(kindOf(difference("a"))).toBe("Extra");
    expect(kindOf(difference("a", { kind: "orphaned" }))).toBe("Orphaned account");
    expect(stateOf(difference("a"))).toBe("New");
    expect(stateOf(difference("a", { returned: "worse" }))).toBe("More than accepted");
    expect(stateOf(difference("a", { returned: "ended" }))).toBe("Acceptance ended");
    expect(stateOf(difference("a", { state: "in-draft" }))).toBe("In a draft");
    expect(stateOf(difference("a", { state: "accepted" }))).toBe("Accepted");
    expect(stateOf(difference("a", { state: "settled" }))).toBe("Settled");
  });

  it("leads to the reasons of the model, where it is about a right", () => {
    expect(whyOf(difference("a"))).toBe(
      "/ask/why?who=corin&permission=desk.open&on=q-desk&factor=1",
    );
    const identity: Discrepancy = {
      id: "orphaned h",
      kind: "orphaned",
      said: "Hanne Sorrel is not active",
      who: "hanne",
      held: [],
      state: "new",
      mine: true,
    };
    expect(whyOf(identity)).toBeUndefined();
  });
});

describe("Systems", () => {
  it("lists differences, what was not compared, and earlier comparisons", async () => {
    serve(served());
    show(<Systems />, "/checks?part=systems&kind=extra");
    await userEvent.click(await screen.findByRole("button", { name: "one is said" }));
    expect(screen.getByText(/The system has: Clerk, Quillhaven/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "Why not, in the model" }).getAttribute("href")).toBe(
      "/ask/why?who=corin&permission=desk.open&on=q-desk&factor=1",
    );
    expect(screen.getByText(/entitlement Boss \(1 line\)/)).toBeTruthy();
    expect(screen.getByText(/In 111 cases/)).toBeTruthy();
    expect(screen.getByText(/about people you can’t see/)).toBeTruthy();
    expect(screen.getByText(/A table came in, by Ilse Varga/)).toBeTruthy();
    expect(screen.getByRole("link", { name: "Export as CSV" }).getAttribute("href")).toBe(
      "/api/systems/desk/discrepancies/file?kind=extra&format=csv",
    );
  });

  it("puts what is selected into a draft, and says what is left", async () => {
    const calls = serve({
      ...served(),
      "POST /api/systems/:system/draft": { draft: "d1", changes: 1, left: [] },
    });
    show(<Systems />, "/checks?part=systems");
    await userEvent.click(await screen.findByRole("checkbox", { name: /one is said/ }));
    await userEvent.click(screen.getByRole("checkbox", { name: /Nobody you can see/ }));
    await userEvent.click(screen.getByRole("button", { name: "Change the model in a new draft" }));
    expect((await screen.findByRole("link", { name: "Open the draft" })).getAttribute("href")).toBe(
      "/drafts/d1",
    );
    const sent = calls.find((it) => it.path.endsWith("/draft") && it.method === "POST");
    expect(sent?.body, "an identity is settled in the system").toEqual({ ids: ["one"] });
  });

  it("brings a table in, and compares again after a change", async () => {
    const calls = serve({
      ...served({ outdated: true }),
      "POST /api/systems/:system/comparisons": JOB,
    });
    const { container } = show(<Systems />, "/checks?part=systems");
    await screen.findByText("The model or the terms changed since.");
    const input = container.querySelector<HTMLInputElement>("input[type=file]");
    if (!input) throw new Error("There is no field for a file");
    await userEvent.upload(input, table("held.csv"));
    await waitFor(() =>
      expect(calls.filter((it) => it.path.endsWith("/comparisons"))).toHaveLength(1),
    );
    await userEvent.click(screen.getByRole("button", { name: "Compare again" }));
    await waitFor(() =>
      expect(calls.filter((it) => it.path.endsWith("/comparisons"))).toHaveLength(2),
    );
  });

  it("offers only what the viewer may do", async () => {
    serve(
      served(
        { discrepancies: [difference("one", { mine: false })], total: 1, elsewhere: false },
        { mine: false },
      ),
    );
    show(<Systems />, "/checks?part=systems");
    expect(await screen.findByText(/Compared on/)).toBeTruthy();
    expect(await screen.findByRole("button", { name: "one is said" })).toBeTruthy();
    expect(screen.queryByRole("checkbox")).toBeNull();
    for (const name of ["Bring in a table", "Terms", "Accept until a date"]) {
      expect(screen.queryByRole("button", { name })).toBeNull();
    }
  });

  it("keeps versions of the terms; one counts after a trial", async () => {
    const calls = serve({
      ...served(),
      "POST /api/systems/:system/terms/:version/trial": {
        lines: 3,
        translated: 2,
        untranslated: { "place Attic": 1 },
        strangers: ["x"],
        first: [
          {
            identity: "c.b",
            whoName: "Corin Bladen",
            entitlement: "Clerk",
            permissions: ["Open the desk"],
            place: "Quillhaven",
            ourPlace: "Loans desk",
            below: true,
          },
          { identity: "x", entitlement: "Boss", permissions: [], place: "Attic", below: false },
        ],
      },
    });
    const { container } = show(<Systems />, "/checks?part=systems");
    await userEvent.click(await screen.findByRole("button", { name: "Terms" }));
    expect(screen.queryByRole("button", { name: "Put version 2 in force" })).toBeNull();
    const inputs = container.querySelectorAll<HTMLInputElement>(
      "section[aria-label=Terms] td input",
    );
    if (!inputs[0]) throw new Error("There is no field for a sample");
    await userEvent.upload(inputs[0], table("sample.csv"));
    const trial = await screen.findByRole("status", { name: "Trial" });
    expect(within(trial).getByText(/Version 2 understands 2 of 3 lines/)).toBeTruthy();
    expect(within(trial).getByText(/Without a meaning: place Attic \(1\)/)).toBeTruthy();
    expect(within(trial).getByText("c.b → Corin Bladen")).toBeTruthy();
    expect(within(trial).getByText("Attic → nowhere")).toBeTruthy();
    expect(calls.some((it) => it.path.endsWith("/terms/2/trial"))).toBe(true);
  });

  it("says how to begin, where there is none", async () => {
    const calls = serve({
      ...served(),
      "/api/systems": { accounts: ["quillhaven"], systems: [] },
      "PUT /api/systems/:system": { accounts: ["quillhaven"], systems: [] },
    });
    show(<Systems />, "/checks?part=systems");
    await userEvent.click(await screen.findByRole("button", { name: "New system" }));
    await userEvent.type(await screen.findByRole("textbox", { name: "Name" }), "Till, shop");
    await userEvent.click(screen.getByRole("button", { name: "Add system" }));
    await waitFor(() =>
      expect(calls.some((it) => it.path === "/api/systems/till-shop")).toBe(true),
    );
  });

  it("changes what the columns of a system are called", async () => {
    const calls = serve({
      ...served(),
      "PUT /api/systems/:system": { accounts: ["quillhaven"], systems: [SYSTEM] },
    });
    show(<Systems />, "/checks?part=systems");
    await userEvent.click(await screen.findByRole("button", { name: "Edit Loans desk" }));
    const who = await screen.findByRole("textbox", { name: "Column with who" });
    await userEvent.clear(who);
    await userEvent.type(who, "login");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")).toMatchObject({
        path: "/api/systems/desk",
        body: { name: "Loans desk", account: "quillhaven", identity: "login", place: "site" },
      }),
    );
  });

  it("says so to whoever may see no system", async () => {
    serve({
      ...served(),
      "/api/systems": new Refusal(403, { title: "No", detail: "You need more. Ask." }),
    });
    show(<Systems />, "/checks?part=systems");
    expect(await screen.findByText(/compares it with the model/)).toBeTruthy();
  });
});
