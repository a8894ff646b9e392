import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, openDraft, serve, show, type Call } from "@/shared/testing/served";
import { GroupPage } from "./GroupPage";
import { GroupsPage } from "./GroupsPage";

function group(more: object = {}) {
  return {
    kind: "groups",
    key: "guards",
    name: "Guards",
    account: "q",
    supplied: false,
    said: "Guards",
    thing: { key: "guards", members: ["person:ada", "group:night"], ...more },
  };
}

const member = { key: "ada", name: "Ada Finch", kind: "person", listed: true, active: true };
const page = {
  group: group(),
  size: 3,
  members: [member, { ...member, key: "bas", name: "Bas Quill", listed: false, active: false }],
  elsewhere: true,
  owners: [{ key: "hanne", name: "Hanne Sorrel", state: "left" }],
  holds: [{ key: "night", name: "Night guards" }],
  heldBy: [{ key: "staff", name: "Staff" }],
  gives: [],
};

const common = {
  "/api/accounts": ACCOUNTS,
  "/api/things/:kind": { things: [], total: 0 },
  "POST /api/drafts/open/edits": openDraft(1, [{ kind: "groups", key: "g-new" }]),
};

function edits(calls: Call[]): unknown[] {
  return calls
    .filter((it) => it.path.endsWith("/edits"))
    .flatMap((it) => (it.body as { edits: unknown[] }).edits);
}

function showGroup(more: object = {}) {
  const calls = serve({ ...common, "/api/rights/groups/:key": { ...page, ...more } });
  show(
    <Routes>
      <Route path="/groups/:key" element={<GroupPage />} />
    </Routes>,
    "/groups/guards",
  );
  return calls;
}

it("groups that one may not see say what they are and whom to ask", async () => {
  const accounts = ACCOUNTS.accounts.map((it) => ({ ...it, readable: false, may: [] }));
  serve({ ...common, "/api/accounts": { ...ACCOUNTS, accounts } });
  show(<GroupsPage />);
  expect(await screen.findByText(/^You can't see the groups of/)).toBeDefined();
  expect(screen.getByText(/Ask a security administrator/)).toBeDefined();
});

describe("a group's page", () => {
  it("says who is in it and how, who owns it, and what it is nested in", async () => {
    showGroup();
    expect(await screen.findByText("3 members")).toBeDefined();
    expect(screen.getByText("owned by Hanne Sorrel (left)")).toBeDefined();
    expect(screen.getByText("not active · through a nested group")).toBeDefined();
    expect(screen.getByText("It also has members you can't see.")).toBeDefined();
    expect(screen.getByText("and 1 more")).toBeDefined();
    expect(screen.getByRole("link", { name: "Night guards" }).getAttribute("href")).toBe(
      "/groups/night",
    );
    expect(screen.getByRole("link", { name: "Staff" })).toBeDefined();
  });

  it("removes listed members and nested groups in the draft, never those by rule", async () => {
    const calls = showGroup();
    await userEvent.click(await screen.findByRole("checkbox", { name: "Select Ada Finch" }));
    expect(screen.queryByRole("checkbox", { name: "Select Bas Quill" })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "Remove 1 from group" }));
    await userEvent.click(screen.getByLabelText("Remove Night guards"));
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { kind: "groups", key: "guards", drop: { members: ["person:ada"] } },
        { kind: "groups", key: "guards", drop: { members: ["group:night"] } },
      ]),
    );
    expect(screen.queryByLabelText("Remove Staff")).toBeNull();
  });

  it("is renamed and retired in the draft", async () => {
    const calls = showGroup();
    const name = await screen.findByRole("textbox", { name: "Name of the group" });
    await userEvent.type(name, " of Quillhaven{Enter}");
    await userEvent.click(screen.getByRole("button", { name: "Retire" }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([
        { kind: "groups", key: "guards", set: { name: "Guards of Quillhaven" } },
        { kind: "groups", key: "guards", set: { status: "retired" } },
      ]),
    );
  });

  it("gets a rule, which starts with one unfinished test", async () => {
    showGroup();
    await userEvent.click(await screen.findByRole("button", { name: "Build a rule" }));
    expect(screen.getByText("No one matches yet. Finish a test.")).toBeDefined();
  });

  it("says that it has no owner, and is reactivated", async () => {
    const calls = showGroup({ owners: [], group: group({ status: "retired" }) });
    expect(await screen.findByText("retired · no owner")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Reactivate" }));
    await waitFor(() =>
      expect(edits(calls)).toEqual([{ kind: "groups", key: "guards", set: { status: null } }]),
    );
  });
});

describe("the groups of an account", () => {
  function showGroups(things: object[]) {
    const calls = serve({
      ...common,
      "/api/things/:kind": { things, total: things.length },
    });
    show(
      <Routes>
        <Route path="/groups" element={<GroupsPage />} />
        <Route path="*" element={<p>another page</p>} />
      </Routes>,
      "/groups",
    );
    return calls;
  }

  it("are listed with how their members are in them", async () => {
    showGroups([group(), { ...group({ members: [], rule: { all: [] } }), key: "b", name: "B" }]);
    const rows = await screen.findAllByRole("row");
    expect(rows.map((it) => it.textContent)).toEqual([
      "GroupAccountMembersState",
      "GuardsQuillhaven2 listed membersactive",
      "BQuillhavenby ruleactive",
    ]);
  });

  it("get a new one, which opens under the key that the server gave", async () => {
    const calls = showGroups([]);
    expect(await screen.findByText(/No groups match here/)).toBeDefined();
    await userEvent.click(await screen.findByRole("button", { name: /New group in/ }));
    expect(edits(calls), "nothing is made before it has a name").toEqual([]);
    await userEvent.type(await screen.findByRole("textbox", { name: "Name" }), "Night desk");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(screen.getByLabelText("address").textContent).toBe("/groups/g-new"));
    expect(edits(calls)).toEqual([
      { kind: "groups", after: { name: "Night desk", account: "trust" } },
    ]);
  });
});
