import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, openDraft, Refusal, serve, show, type Call } from "@/shared/testing/served";
import { RightsPage } from "./pages/RightsPage";
import { RoleComparisonPage } from "./pages/RoleComparisonPage";
import { RolePage } from "./pages/RolePage";

function role(key: string, more: object = {}) {
  return {
    kind: "roles",
    key,
    name: key === "reg" ? "Registrar" : "Archivist",
    account: "Quillhaven",
    supplied: false,
    said: key,
    thing: { key, name: key, sets: ["desk"], requiresMfa: key === "reg" },
    ...more,
  };
}

function line(name: string, more: object = {}) {
  return {
    key: name,
    name,
    accessClass: "change",
    risk: "high",
    allowed: true,
    denied: false,
    needsFactor: false,
    through: ["Loan desk"],
    juniors: [],
    ...more,
  };
}

function rolePage(key: string, more: object = {}) {
  return {
    role: role(key),
    content: [
      line("Draft loans"),
      line("Pay", { allowed: false, denied: true, juniors: ["Staff", "Buyer"] }),
    ],
    adds: [],
    takes: [],
    juniors: [],
    seniors: [{ key: "head", name: "Head registrar" }],
    copies: [],
    holders: [
      { key: "ada", name: "Ada Finch", title: "Registrar", active: true, by: ["Registrars"] },
      { key: "hanne", name: "Hanne Sorrel", active: false, by: ["Registrars", "herself"] },
    ],
    active: 1,
    holding: 5,
    assignments: [],
    ...more,
  };
}

const common = {
  "/api/accounts": ACCOUNTS,
  "/api/things/:kind": { things: [], total: 0 },
  "POST /api/drafts/open/edits": openDraft(1, [{ kind: "roles", key: "new-role" }]),
};

function edits(calls: Call[]): unknown[] {
  return calls.filter((it) => it.path.endsWith("/edits")).map((it) => it.body);
}

function showRole(key: string, answer: object) {
  const calls = serve({ ...common, "/api/rights/roles/:key": answer });
  show(
    <Routes>
      <Route path="/rights/roles/:key" element={<RolePage />} />
    </Routes>,
    `/rights/roles/${key}`,
  );
  return calls;
}

describe("a role's page", () => {
  it("says what it grants, what it denies, and who holds it through what", async () => {
    showRole("reg", rolePage("reg"));
    expect(await screen.findByText("Grants · 1 permission")).toBeDefined();
    expect(screen.getByText("denied · Loan desk · inherited from Staff and Buyer")).toBeDefined();
    expect(screen.getByText("1 active holder, 4 not active")).toBeDefined();
    expect(screen.getByText("not active · through Registrars and herself")).toBeDefined();
    expect(screen.getByText("and 3 more")).toBeDefined();
    expect(screen.getByText("Inherited by Head registrar.")).toBeDefined();
  });

  it("is renamed, retired and limited in the draft", async () => {
    const calls = showRole("reg", rolePage("reg"));
    await userEvent.type(
      await screen.findByRole("textbox", { name: "Name of the role" }),
      "s{Enter}",
    );
    await waitFor(() => expect(edits(calls)).toHaveLength(1));
    await userEvent.click(screen.getByRole("button", { name: "Retire" }));
    await userEvent.type(screen.getByRole("spinbutton", { name: /Greatest/ }), "3");
    await userEvent.tab();
    await waitFor(() => expect(edits(calls)).toHaveLength(3));
    expect(edits(calls)).toEqual([
      { edits: [{ kind: "roles", key: "reg", set: { name: "Registrars" } }] },
      { edits: [{ kind: "roles", key: "reg", set: { status: "retired" } }] },
      { edits: [{ kind: "roles", key: "reg", set: { maxHolders: 3 } }] },
    ]);
  });

  it("is copied into the account one works in, and the copy opens", async () => {
    const calls = showRole("reg", rolePage("reg"));
    await userEvent.click(await screen.findByRole("button", { name: "Copy and adapt" }));
    await waitFor(() =>
      expect(screen.getByLabelText("address").textContent).toBe("/rights/roles/new-role"),
    );
    expect(edits(calls)[0]).toMatchObject({
      edits: [{ kind: "roles", after: { name: "Registrar (copy)", basedOn: "reg" } }],
    });
  });

  it("can't be edited where it is supplied", async () => {
    showRole(
      "reg",
      rolePage("reg", {
        role: role("reg", { supplied: true, cannot: "It is supplied and locked." }),
      }),
    );
    expect(await screen.findByText("supplied, can't be edited")).toBeDefined();
    expect(screen.queryByRole("button", { name: "Retire" })).toBeNull();
    expect(screen.queryByRole("textbox", { name: "Name of the role" })).toBeNull();
    expect(await screen.findByRole("button", { name: "Copy and adapt" })).toBeDefined();
  });

  it("offers what changed in the role it was copied from", async () => {
    const since = {
      revision: 12,
      added: [{ field: "sets", key: "vault", name: "Vault" }],
      gone: [{ field: "sets", key: "desk", name: "Desk" }],
    };
    const basedOn = { key: "staff", name: "Staff" };
    const calls = showRole(
      "reg",
      rolePage("reg", { originSince: since, basedOn, adds: ["Pay"], takes: ["View", "Ship"] }),
    );
    expect(await screen.findByText(/adds Pay; leaves out View and Ship/)).toBeDefined();
    await userEvent.click(screen.getByText("Add it here"));
    await userEvent.click(screen.getByText("Remove it here"));
    await waitFor(() => expect(edits(calls)).toHaveLength(2));
    expect(edits(calls)).toEqual([
      { edits: [{ kind: "roles", key: "reg", add: { sets: ["vault"] } }] },
      { edits: [{ kind: "roles", key: "reg", drop: { sets: ["desk"] } }] },
    ]);
  });

  it("shows a refusal, without offering to try again where that can't help", async () => {
    showRole("reg", new Refusal(404, { title: "Not found", detail: "Choose another role." }));
    expect(await screen.findByText("Choose another role.")).toBeDefined();
    expect(screen.queryByText("Try again")).toBeNull();
  });
});

describe("the lists of rights", () => {
  function showPart(part: string, answers: object, search = "") {
    const calls = serve({ ...common, ...answers, "/api/rights/roles": { holders: { reg: 12 } } });
    show(
      <Routes>
        <Route path="/rights/:part" element={<RightsPage />} />
        <Route path="*" element={<p>another page</p>} />
      </Routes>,
      `/rights/${part}${search}`,
    );
    return calls;
  }

  it("roles: holders and conditions, and two to compare", async () => {
    showPart("roles", {
      "/api/things/:kind": { things: [role("reg"), role("arch")], total: 2 },
    });
    const row = (await screen.findByText("Registrar")).closest("tr");
    await waitFor(() => expect(row?.textContent).toContain("12"));
    expect(row?.textContent).toContain("second factor");
    await userEvent.click(screen.getByRole("checkbox", { name: "Select Registrar" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Select Archivist" }));
    await userEvent.click(screen.getByText("Compare the two selected roles"));
    expect(screen.getByLabelText("address").textContent).toBe("/rights/compare?one=reg&other=arch");
  });

  it("permission sets: one opens to its content, which is edited in the draft", async () => {
    const set = {
      kind: "permissionSets",
      key: "desk",
      name: "Loan desk",
      supplied: false,
      said: "",
      thing: { key: "desk", allow: ["loan.draft"], deny: [] },
    };
    const calls = showPart("sets", { "/api/things/:kind": { things: [set], total: 1 } });
    await userEvent.click(await screen.findByRole("button", { name: "Loan desk" }));
    expect(screen.getByLabelText("address").textContent).toContain("open=desk");
    await userEvent.click(await screen.findByLabelText("Remove loan.draft"));
    await waitFor(() =>
      expect(edits(calls)[0]).toEqual({
        edits: [{ kind: "permissionSets", key: "desk", drop: { allow: ["loan.draft"] } }],
      }),
    );
  });

  it("permissions: of one type with a picture of what implies what", async () => {
    const permission = (key: string, implies: string[]) => ({
      kind: "permissions",
      key,
      name: `Name of ${key}`,
      supplied: false,
      said: "",
      thing: { key, on: ["loan"], class: "change", risk: "high", implies },
    });
    const things = [permission("loan.view", []), permission("loan.draft", ["loan.view"])];
    showPart("permissions", { "/api/things/:kind": { things, total: 2 } }, "?type=loan");
    expect(
      await screen.findByRole("img", { name: /Which permission implies which/ }),
    ).toBeDefined();
    expect(screen.getByRole("button", { name: "Edit Name of loan.draft" })).toBeDefined();
  });

  it("say what to do where nothing matches, and where nothing can be seen", async () => {
    showPart("roles", {}, "?text=zzz");
    expect(await screen.findByText("No matches. Change or clear the filter.")).toBeDefined();
    await userEvent.clear(screen.getByRole("textbox", { name: "Part of the name" }));
    expect(await screen.findByText("You can't see roles")).toBeDefined();
    expect(screen.getByText(/A named bundle of permission sets/).textContent).toContain("Ask a");
  });
});

it("two roles are compared by permissions and holders", async () => {
  serve({
    ...common,
    "/api/rights/roles/:key": ({ path }) =>
      path.endsWith("reg")
        ? rolePage("reg")
        : rolePage("arch", { content: [line("Draft loans"), line("Read papers")], holders: [] }),
  });
  show(<RoleComparisonPage />, "/rights/compare?one=reg&other=arch");
  expect(await screen.findByText("Registrar and Archivist")).toBeDefined();
  expect(screen.getByText("Read papers")).toBeDefined();
  expect(screen.getByText("2 holders")).toBeDefined();
  expect(screen.queryByText(/grant the same permissions/)).toBeNull();
});
