import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, openDraft, Refusal, serve, show, type Call } from "@/shared/testing/served";
import { setWidth } from "@/shared/testing/setup";
import { PeoplePage } from "./pages/PeoplePage";
import { PersonPage } from "./pages/PersonPage";

function row(key: string, name: string, more: object = {}) {
  return {
    key,
    name,
    title: "Registrar",
    kind: "person",
    state: "active",
    account: "q",
    accountName: "Quillhaven",
    roles: ["Registrar", "Staff", "Buyer", "Courier"],
    secondFactor: true,
    figure: { rights: 1204, areas: [0], petals: [[0, 0, 10, 4, 0, 0, 1]] },
    ...more,
  };
}

const people = {
  total: 2,
  persons: 1,
  services: 1,
  offset: 0,
  rows: [row("ada", "Ada Finch"), row("label", "Label printer", { kind: "service" })],
  areas: [{ account: false, door: false, size: 10 }],
  titles: ["Registrar", "Guard"],
};

const common = {
  "/api/accounts": ACCOUNTS,
  "/api/things/:kind": { things: [], total: 0 },
  "POST /api/drafts/open/edits": openDraft(1),
  "POST /api/places/scope": {
    everything: false,
    relative: false,
    count: 0,
    sealedOff: 0,
    first: [],
    cut: false,
  },
  "/api/rights/roles/:key": { role: { thing: {} } },
};

function edits(calls: Call[]): unknown[] {
  return calls.filter((it) => it.path.endsWith("/edits")).map((it) => it.body);
}

/** The list's cards: a virtual table needs a layout, which jsdom does not have. */
function showPeople(answer: object, address = "/people?in=q") {
  setWidth(390);
  const calls = serve({ ...common, "/api/people": answer });
  show(<PeoplePage />, address);
  return calls;
}

describe("the people of an account", () => {
  it("are counted, and each leads to the question about them", async () => {
    showPeople(people);
    expect(await screen.findByText("1 person · 1 service")).toBeDefined();
    const link = await screen.findByRole("link", { name: "Ada Finch" });
    expect(link.getAttribute("href")).toBe("/ask?who=ada&in=q&factor=1");
    expect(screen.getByRole("img", { name: "Ada Finch: 1,204 rights" })).toBeDefined();
    expect(screen.getByText("service · active")).toBeDefined();
  });

  it("are asked for by the filters of the address", async () => {
    const calls = showPeople(people, "/people?in=trust&state=left&job=Guard&text=ad");
    await screen.findByText("1 person · 1 service");
    expect(calls.find((it) => it.path === "/api/people")?.query).toMatchObject({
      account: "trust",
      state: "left",
      title: "Guard",
      text: "ad",
      offset: "0",
    });
    expect(screen.getByRole("button", { name: "State: left" })).toBeDefined();
    expect(screen.getByRole("button", { name: "Job: Guard" })).toBeDefined();
  });

  it("are filtered by state and job, which the address keeps", async () => {
    showPeople(people);
    await userEvent.click(await screen.findByRole("button", { name: "State: active or invited" }));
    await userEvent.click(await screen.findByRole("checkbox", { name: "suspended" }));
    expect(screen.getByLabelText("address").textContent).toContain(
      "state=active,invited,suspended",
    );
    await userEvent.keyboard("{Escape}");
    await userEvent.click(screen.getByRole("button", { name: "Job: any job" }));
    await userEvent.click(await screen.findByText("Guard"));
    expect(screen.getByLabelText("address").textContent).toContain("job=Guard");
  });

  it("say what to do where no one matches", async () => {
    showPeople({ ...people, total: 0, persons: 0, services: 0, rows: [] });
    expect(await screen.findByText(/No one matches these filters/)).toBeDefined();
  });

  it("are not shown to whoever can't see other people", async () => {
    serve({ ...common, "/api/accounts": { ...ACCOUNTS, people: false }, "/api/people": people });
    show(<PeoplePage />, "/people");
    expect(await screen.findByText("You can't see other people")).toBeDefined();
  });

  it("show a refusal, and try again", async () => {
    const calls = showPeople(new Refusal(503, { title: "Busy", detail: "Wait a moment." }));
    expect((await screen.findAllByText("Wait a moment.")).length).toBeGreaterThan(0);
    const before = calls.length;
    await userEvent.click(screen.getByText("Try again"));
    await waitFor(() => expect(calls.length).toBeGreaterThan(before));
  });
});

const person = {
  person: {
    kind: "principals",
    key: "ada",
    name: "Ada Finch",
    account: "q",
    supplied: false,
    said: "Ada Finch",
    thing: {
      key: "ada",
      kind: "person",
      attributes: { title: "Registrar" },
      reach: [{ unit: "registry", level: "view" }],
    },
  },
  unit: "Registry",
  manager: "Tomas Brandt",
  groups: [{ key: "guards", name: "Guards" }],
  reports: [{ key: "bas", name: "Bas Quill" }],
  assignments: [
    {
      key: "a1",
      subject: "group:guards",
      subjectName: "Guards",
      gives: "role:reg",
      givesName: "Registrar",
      denies: false,
      where: "everything in Quillhaven",
      state: "in force",
      until: "2027-01-05T00:00:00Z",
      justInTime: true,
      crossesSeals: false,
      thing: {},
    },
  ],
};

function showPerson(more: object = {}) {
  const answer = more instanceof Refusal ? more : { ...person, ...more };
  const calls = serve({ ...common, "/api/rights/people/:key": answer });
  show(
    <Routes>
      <Route path="/people/:key" element={<PersonPage />} />
    </Routes>,
    "/people/ada",
  );
  return calls;
}

describe("a person's page", () => {
  it("shows facts, groups, reports and the assignments that apply", async () => {
    showPerson();
    expect(
      await screen.findByText(/unit Registry · reports to Tomas Brandt · title: Registrar/),
    ).toBeDefined();
    expect(screen.getByText(/reaches registry \(view\)/)).toBeDefined();
    expect(screen.getByText("Bas Quill reports to them.")).toBeDefined();
    expect(screen.getByText("until 5 Jan 2027, just-in-time")).toBeDefined();
    expect(await screen.findByText("Nothing is activated.")).toBeDefined();
  });

  it("suspends and reactivates in the draft", async () => {
    const calls = showPerson();
    await userEvent.click(await screen.findByRole("button", { name: "Suspend" }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { edits: [{ kind: "principals", key: "ada", set: { status: "suspended" } }] },
      ]),
    );
  });

  it("offers to reactivate whoever is suspended", async () => {
    const thing = { ...person.person.thing, status: "suspended" };
    const calls = showPerson({ person: { ...person.person, thing } });
    await userEvent.click(await screen.findByRole("button", { name: "Reactivate" }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { edits: [{ kind: "principals", key: "ada", set: { status: null } }] },
      ]),
    );
  });

  it("removes an assignment in the draft", async () => {
    const calls = showPerson();
    await userEvent.click(await screen.findByRole("button", { name: /^Remove: Guards Registrar/ }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([{ edits: [{ kind: "assignments", key: "a1", remove: true }] }]),
    );
  });

  it("opens the form of an assignment with what it holds", async () => {
    showPerson();
    await userEvent.click(await screen.findByRole("button", { name: /^Edit: Guards Registrar/ }));
    const dialog = await screen.findByRole("dialog");
    expect(within(dialog).getByText("Edit assignment")).toBeDefined();
    expect(within(dialog).getByRole("button", { name: "What: Registrar" })).toBeDefined();
  });

  it("shows why it can't be shown", async () => {
    showPerson(new Refusal(404, { title: "Not found", detail: "Ask for it." }));
    expect(await screen.findByText("Ask for it.")).toBeDefined();
  });
});
