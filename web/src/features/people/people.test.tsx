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
  "/api/people/:key/standing": { planned: [], soleHolder: [] },
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
    expect(link.getAttribute("href")).toBe("/people/ada");
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

  it("are filtered by what one adds, in words that the address keeps", async () => {
    const calls = showPeople(people, "/people?in=q&unseen=30&unit=-&exposed=many");
    await screen.findByText("1 person · 1 service");
    expect(calls.find((it) => it.path === "/api/people")?.query).toMatchObject({
      unseen: "30",
      unit: "-",
    });
    expect(calls.find((it) => it.path === "/api/people")?.query).not.toHaveProperty("exposed");
    expect(screen.getByRole("button", { name: "Unit: without a unit" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Last seen: not seen for 30 days" }));
    await userEvent.click(await screen.findByText("Remove this filter"));
    expect(screen.getByLabelText("address").textContent).not.toContain("unseen");
    await userEvent.click(screen.getByRole("button", { name: "Another filter: add a filter" }));
    await userEvent.click(await screen.findByText("Second factor"));
    await userEvent.click(await screen.findByText("without a second factor"));
    expect(screen.getByLabelText("address").textContent).toContain("factor=no");
  });

  it("come in groups that unfold, each with its number", async () => {
    setWidth(390);
    const calls = serve({
      ...common,
      "/api/people": people,
      "/api/people/groups": {
        groups: [
          { key: "reg", name: "Registry", people: 2 },
          { name: "Not shown to you", people: 3 },
          { key: "-", name: "No unit", people: 1 },
        ],
      },
    });
    show(<PeoplePage />, "/people?in=q&by=unit");
    await userEvent.click(await screen.findByText("Registry"));
    expect(await screen.findByRole("link", { name: "Ada Finch" })).toBeDefined();
    expect(calls.find((it) => it.query["of"])?.query).toMatchObject({ by: "unit", of: "reg" });
    expect(screen.getByText("3 entries")).toBeDefined();
  });

  it("get links many at once, and it is said who did not", async () => {
    setWidth(390);
    const calls = serve({
      ...common,
      "/api/people": people,
      "POST /api/people/invitations": {
        done: 1,
        notDone: [{ key: "label", why: "Services do not sign in." }],
      },
    });
    show(<PeoplePage />, "/people?in=q");
    await userEvent.click(await screen.findByRole("checkbox", { name: "Select Ada Finch" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Select Label printer" }));
    await userEvent.click(await screen.findByRole("button", { name: "Send links" }));
    await userEvent.click(await screen.findByRole("button", { name: "Send" }));
    expect(await screen.findByText("Links sent to 1 person.")).toBeDefined();
    expect(screen.getByText("Label printer: Services do not sign in.")).toBeDefined();
    expect(calls.find((it) => it.path.endsWith("/invitations"))?.body).toEqual({
      people: ["ada", "label"],
    });
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

describe("a new person", () => {
  it("is asked for what is needed first, and is shown when it is in the draft", async () => {
    const calls = serve({
      ...common,
      "/api/people": people,
      "POST /api/drafts/open/edits": openDraft(1, [{ kind: "principals", key: "new.one" }]),
    });
    setWidth(390);
    show(
      <Routes>
        <Route path="/people" element={<PeoplePage />} />
        <Route path="/people/:key" element={<p>the new page</p>} />
      </Routes>,
      "/people?in=q",
    );
    await userEvent.click(await screen.findByRole("button", { name: "New person" }));
    const dialog = await screen.findByRole("dialog");
    expect(within(dialog).getByText("New person")).toBeDefined();
    expect(within(dialog).queryByText("Pattern")).toBeNull();
    await userEvent.click(within(dialog).getByRole("button", { name: "Add to draft" }));
    expect(await within(dialog).findByText("Enter “Name”.")).toBeDefined();
    expect(edits(calls)).toEqual([]);
    await userEvent.type(within(dialog).getByLabelText("Name"), "New One");
    await userEvent.click(within(dialog).getByRole("button", { name: "Add to draft" }));
    expect(await screen.findByText("the new page")).toBeDefined();
    expect(edits(calls)).toEqual([
      {
        edits: [
          {
            kind: "principals",
            after: { kind: "person", account: "q", status: "invited", name: "New One" },
          },
        ],
      },
    ]);
    expect(screen.getByLabelText("address").textContent).toBe("/people/new.one");
  });

  it("is not offered to whoever may not make one", async () => {
    const accounts = ACCOUNTS.accounts.map((it) => ({ ...it, may: [] }));
    serve({ ...common, "/api/people": people, "/api/accounts": { ...ACCOUNTS, accounts } });
    setWidth(390);
    show(<PeoplePage />, "/people?in=q");
    await screen.findByText("1 person · 1 service");
    expect(screen.queryByRole("button", { name: "New person" })).toBeNull();
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
      attributes: { title: "Registrar", desk: "East" },
      email: "ada@quill.example",
      mfa: true,
      until: "2027-06-30T00:00:00Z",
      reach: [{ unit: "registry", level: "view" }],
    },
  },
  state: "active",
  account: { key: "q", name: "Quillhaven" },
  unit: { key: "registry", name: "Registry" },
  manager: { key: "tomas", name: "Tomas Brandt" },
  groups: [
    { key: "guards", name: "Guards", account: "Quillhaven", direct: true },
    { key: "all", name: "All staff", account: "Trust", direct: false },
  ],
  cannot: {},
  signIn: {
    password: true,
    secondFactor: true,
    sessions: [{ since: "2026-11-28T08:00:00Z", lastUsed: "2026-11-28T09:30:00Z" }],
  },
  guests: [],
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

const figure = { rights: 1204, sectors: [] };
const Access = ({ who }: { who: string }) => <p>access of {who}</p>;
const History = ({ who }: { who: string }) => <p>history of {who}</p>;

function showPerson(more: object = {}, tab = "holds", answers: object = {}) {
  const answer = more instanceof Refusal ? more : { ...person, ...more };
  const calls = serve({
    ...common,
    "/api/rights/people/:key": answer,
    "/api/ask/access": { figure, regions: [], permissions: [] },
    ...answers,
  });
  show(
    <Routes>
      <Route path="/people/:key" element={<PersonPage access={Access} history={History} />} />
    </Routes>,
    `/people/ada?tab=${tab}`,
  );
  return calls;
}

describe("a person's page", () => {
  it("says that mail to them was refused, and what to do", async () => {
    showPerson({ mailRefusal: "550 No such user" }, "access");
    expect(
      await screen.findByText("mail refused: 550 No such user. Correct the address."),
    ).toBeDefined();
  });

  it("has the mandala and the facts at its head, and the question first", async () => {
    showPerson({}, "access");
    expect(await screen.findByRole("img", { name: "Ada Finch: 1,204 rights" })).toBeDefined();
    const head = screen.getByRole("banner").textContent;
    expect(head).toContain("Registrar · active · reports to Tomas Brandt · ada@quill.example");
    expect(head).toContain("last seen never · second factor: enrolled · active until 29 Jun 2027");
    expect(head).toContain("desk: East · reaches registry (view)");
    expect(screen.getByRole("link", { name: "Tomas Brandt" }).getAttribute("href")).toBe(
      "/people/tomas",
    );
    expect(screen.getByText("access of ada")).toBeDefined();
    await userEvent.click(screen.getByRole("tab", { name: "History" }));
    expect(screen.getByText("history of ada")).toBeDefined();
    expect(screen.getByLabelText("address").textContent).toBe("/people/ada?tab=history");
  });

  it("lists groups and the assignments that apply", async () => {
    showPerson();
    expect(await screen.findByText("until 4 Jan 2027, just-in-time")).toBeDefined();
    expect(screen.getByRole("link", { name: "Guards" }).getAttribute("href")).toBe(
      "/groups/guards",
    );
    expect(screen.getByText("by a rule, or through another group")).toBeDefined();
    expect(await screen.findByText("Nothing is activated.")).toBeDefined();
  });

  it("removes from a listed group only, and only by whoever may", async () => {
    const calls = showPerson();
    await userEvent.click(await screen.findByRole("button", { name: "Remove from group Guards" }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { edits: [{ kind: "groups", key: "guards", drop: { members: ["person:ada"] } }] },
      ]),
    );
    expect(screen.queryByRole("button", { name: "Remove from group All staff" })).toBeNull();
  });

  it("leads to those who report to them", async () => {
    showPerson({}, "reports");
    const link = await screen.findByRole("link", { name: "Bas Quill" });
    expect(link.getAttribute("href")).toBe("/people/bas");
  });

  it("shows how they sign in, and where they are signed in", async () => {
    showPerson({}, "sign-in");
    expect(await screen.findByText(/Signs in with a password and a second factor/)).toBeDefined();
    expect(screen.getByText("28 Nov 2026, 09:30 UTC")).toBeDefined();
  });

  it("shows no action that the viewer may not take, and says why", async () => {
    showPerson(
      {
        signIn: undefined,
        cannot: {
          edit: "You need “Manage people” on Registry.",
          assign: "You need “Assign access” on Registry.",
          viewAs: "You need “See as another” on Registry.",
          ask: "You need “Ask about access” on Registry.",
        },
      },
      "access",
    );
    expect(await screen.findByText("You need “Ask about access” on Registry.")).toBeDefined();
    for (const name of ["Assign", "Edit details", "Suspend"]) {
      expect(screen.queryByRole("button", { name })).toBeNull();
    }
    expect(screen.queryByRole("link", { name: /View as/ })).toBeNull();
    await userEvent.click(screen.getByRole("tab", { name: "Sessions and sign-in" }));
    expect(screen.getByText(/You need “Manage people” on Registry/)).toBeDefined();
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
    const calls = showPerson({ state: "suspended" });
    await userEvent.click(await screen.findByRole("button", { name: "Reactivate" }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { edits: [{ kind: "principals", key: "ada", set: { status: null } }] },
      ]),
    );
  });

  const ending = {
    own: 3,
    people: 6,
    rights: 18,
    elsewhere: true,
    group: { key: "guards", name: "Guards" },
    leavable: true,
  };
  const endings = { "/api/rights/people/:key/ending": ending };

  it("says whom else an assignment reaches, and offers the smaller change", async () => {
    const calls = showPerson({}, "holds", endings);
    await userEvent.click(await screen.findByRole("button", { name: /^Remove: Guards Registrar/ }));
    const dialog = await screen.findByRole("dialog");
    expect(await within(dialog).findByText(/belongs to Guards, not to Ada Finch/)).toBeDefined();
    expect(dialog.textContent).toContain("Ada Finch loses 3 rights");
    expect(dialog.textContent).toContain("6 other people would lose or gain 18 rights");
    expect(dialog.textContent).toContain("people whom you can't see");
    await userEvent.click(
      within(dialog).getByRole("button", { name: "Remove Ada Finch from Guards" }),
    );
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { edits: [{ kind: "groups", key: "guards", drop: { members: ["person:ada"] } }] },
      ]),
    );
  });

  it("ends an assignment for everyone when that is wanted", async () => {
    const calls = showPerson({}, "holds", {
      "/api/rights/people/:key/ending": { ...ending, leavable: false, people: 0 },
    });
    await userEvent.click(await screen.findByRole("button", { name: /^Remove: Guards Registrar/ }));
    const dialog = await screen.findByRole("dialog");
    expect(await within(dialog).findByText(/by a rule or through another group/)).toBeDefined();
    await userEvent.click(within(dialog).getByRole("button", { name: "End it for everyone" }));
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
