import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, openDraft, serve, show } from "@/shared/testing/served";
import { PlacesPage } from "./pages/PlacesPage";

const desk = {
  key: "desk",
  name: "Loans desk",
  type: "desk",
  typeName: "Desk",
  account: "q",
  children: 0,
  sealed: false,
  owner: "ada",
  ownerName: "Ada Finch",
  labels: { floor: "2" },
};

function page(more: object = {}) {
  return {
    place: desk,
    path: [],
    thing: { kind: "resources", key: "desk", name: "Loans desk", supplied: false, thing: {} },
    collections: [{ key: "vaults", name: "Vaults" }],
    ...more,
  };
}

function places(answer: object, may?: string[]) {
  const accounts = ACCOUNTS.accounts.map((it) => (may ? { ...it, may } : it));
  const calls = serve({
    "/api/accounts": { ...ACCOUNTS, accounts },
    "/api/places": answer,
    "/api/places/below": { total: 0, places: [] },
    "/api/places/matrix": { permissions: [], rows: [], assignments: {} },
    "/api/things/resourceTypes": {
      total: 1,
      things: [{ kind: "resourceTypes", key: "loan", name: "Loan", supplied: false, thing: {} }],
    },
    "/api/drafts/open/summary": openDraft(0),
    "POST /api/drafts/open/edits": openDraft(1, [{ kind: "resources", key: "night-loans" }]),
  });
  show(<PlacesPage />, "/places?at=desk");
  return calls;
}

describe("a place that one may edit", () => {
  it("gets a new place below, which opens under the key that the server gave", async () => {
    const calls = places(page());
    await userEvent.click(await screen.findByRole("button", { name: "New place" }));
    const form = await screen.findByRole("dialog", { name: "New place below Loans desk" });
    await userEvent.click(within(form).getByRole("button", { name: "Add to draft" }));
    expect(within(form).getByText("Enter “Name”.")).toBeDefined();
    expect(within(form).getByText("Enter “Type”.")).toBeDefined();
    expect(calls.some((it) => it.method === "POST")).toBe(false);
    await userEvent.type(within(form).getByRole("textbox", { name: "Name" }), "Night loans");
    await userEvent.click(within(form).getByRole("button", { name: /Type/ }));
    await userEvent.click(await screen.findByText("Loan"));
    await userEvent.click(within(form).getByRole("button", { name: "Add to draft" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toMatchObject({
        edits: [
          {
            kind: "resources",
            after: { name: "Night loans", type: "loan", account: "q", parent: "desk" },
          },
        ],
      }),
    );
    await waitFor(() =>
      expect(screen.getByRole("status", { name: "address" }).textContent).toBe(
        "/places?at=night-loans",
      ),
    );
  });
});

describe("an account", () => {
  const account = (thing: object) =>
    page({
      place: { ...desk, name: "Branch", type: "account" },
      thing: { kind: "accounts", key: "branch", name: "Branch", supplied: false, thing },
    });

  function sent(calls: ReturnType<typeof places>) {
    return calls.find((it) => it.method === "POST")?.body;
  }

  it("below another is suspended in the draft", async () => {
    const calls = places(account({ parent: "q" }));
    await userEvent.click(await screen.findByRole("button", { name: "Suspend" }));
    await waitFor(() =>
      expect(sent(calls)).toMatchObject({
        edits: [{ kind: "accounts", key: "branch", set: { status: "suspended" } }],
      }),
    );
  });

  it("says that it is suspended, and is reactivated", async () => {
    const calls = places(account({ parent: "q", status: "suspended" }));
    expect(await screen.findByText(/people at home here or below have no access/)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Reactivate" }));
    await waitFor(() =>
      expect(sent(calls)).toMatchObject({
        edits: [{ kind: "accounts", key: "branch", set: { status: null } }],
      }),
    );
  });

  it("at the root is never suspended", async () => {
    places(account({}));
    expect(await screen.findByRole("button", { name: "Edit account" })).toBeDefined();
    expect(screen.queryByRole("button", { name: "Suspend" })).toBeNull();
  });
});

describe("a place that one may only read", () => {
  const cannot = { ...page().thing, cannot: "You need “Manage places” here." };

  it("shows its facts as text, and no actions", async () => {
    places(page({ thing: cannot }), []);
    expect(await screen.findByText("Ada Finch")).toBeDefined();
    expect(screen.getByText("floor 2")).toBeDefined();
    expect(screen.getByText("Vaults")).toBeDefined();
    const region = screen.getByRole("region", { name: "Place" });
    const names = within(region)
      .queryAllByRole("button")
      .map((it) => it.textContent);
    expect(names).toEqual([]);
    expect(screen.queryByLabelText("Remove Vaults")).toBeNull();
  });
});
