import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show } from "@/shared/testing/served";
import { TokenList } from "./components/TokenList";
import { endAfter, purposesOn, type Token } from "./tokens";

const MANAGES = {
  ...ACCOUNTS,
  accounts: ACCOUNTS.accounts.map((it) => ({ ...it, may: ["mandala.settings.manage"] })),
};

const MAKEABLE = [
  { account: "trust", purposes: ["access", "directory", "findings", "trail"] },
  { account: "q", purposes: ["directory"] },
];

const TOKEN: Token = {
  id: "t1",
  name: "Monthly report",
  principal: "ticketing",
  principalName: "Ticketing",
  purposes: ["directory"],
  accounts: ["q"],
  more: false,
  madeBy: "marten",
  madeByName: "Marten Holloway",
  made: "2026-11-29T09:00:00Z",
  ends: "2027-02-27T09:00:00Z",
  state: "active",
};

function list(tokens: Token[], more: object = {}) {
  const calls = serve({
    "/api/accounts": MANAGES,
    "/api/settings/tokens": { accounts: MAKEABLE, tokens },
    ...more,
  });
  show(<TokenList />);
  return calls;
}

describe("the list of tokens", () => {
  it("says of each whose rights it has, what for, where, and when it was used", async () => {
    list([
      { ...TOKEN, used: "2026-11-29T10:00:00Z", from: "10.0.0.7" },
      { ...TOKEN, id: "t2", name: "Old", state: "revoked", more: true },
      { ...TOKEN, id: "t3", name: "Quiet", state: "resting" },
    ]);
    const used = await screen.findByRole("row", { name: /Monthly report/ });
    expect(used.textContent).toContain("Ticketing");
    expect(used.textContent).toContain("Read people, places and rights");
    expect(used.textContent).toContain("Quillhaven");
    expect(used.textContent).toContain("29 Nov 2026, 10:00 UTCfrom 10.0.0.7");
    expect(used.textContent).toContain("Activeuntil 27 Feb 2027");
    const old = screen.getByRole("row", { name: /Old/ });
    expect(old.textContent).toContain("Quillhaven and others");
    expect(old.textContent).toContain("never yet");
    expect(screen.queryByRole("button", { name: "Revoke Old" })).toBeNull();
    expect(screen.getByRole("button", { name: "Revoke Quiet" })).toBeDefined();
  });

  it("is empty at first, and says what a token is for", async () => {
    list([]);
    expect(await screen.findByText(/No tokens yet/)).toBeDefined();
  });

  it("revokes after a question", async () => {
    const calls = list([TOKEN], {
      "DELETE /api/settings/tokens/:id": { ...TOKEN, state: "revoked" },
    });
    await userEvent.click(await screen.findByRole("button", { name: "Revoke Monthly report" }));
    expect(await screen.findByText(/stop at once/)).toBeDefined();
    expect(calls.some((it) => it.method === "DELETE")).toBe(false);
    const buttons = await screen.findAllByRole("button", { name: "Revoke" });
    await userEvent.click(buttons.at(-1)!);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "DELETE")?.path).toBe("/api/settings/tokens/t1"),
    );
  });

  it("is not there for who manages no settings", async () => {
    const calls = serve({ "/api/accounts": ACCOUNTS });
    show(<TokenList />);
    await waitFor(() => expect(calls).toHaveLength(1));
    expect(screen.queryByText("Tokens")).toBeNull();
  });
});

describe("making a token", () => {
  async function fill() {
    await userEvent.click(await screen.findByRole("button", { name: "New token" }));
    await userEvent.type(await screen.findByLabelText("Name"), " Monthly report ");
    await userEvent.click(screen.getByLabelText(/without my second factor/));
    await userEvent.click(screen.getByRole("combobox", { name: "Accounts" }));
    await userEvent.click(await screen.findByTitle("Quillhaven"));
  }

  it("offers what one may read in all of the accounts, and shows the secret once", async () => {
    const secret = "mandala_abcdefghijkl";
    const calls = list([], { "POST /api/settings/tokens": { token: TOKEN, secret } });
    await fill();
    const make = screen.getByRole("button", { name: "Make token" });
    expect(make).toHaveProperty("disabled", true);
    expect(screen.queryByLabelText("Ask about access")).toBeNull();
    await userEvent.click(screen.getByLabelText("Read people, places and rights"));
    await userEvent.click(make);
    expect(await screen.findByText(secret)).toBeDefined();
    const sent = calls.find((it) => it.method === "POST")?.body as Record<string, unknown>;
    expect(sent).toMatchObject({
      name: "Monthly report",
      accounts: ["q"],
      purposes: ["directory"],
    });
    expect(sent).not.toHaveProperty("principal");
    await userEvent.click(screen.getByRole("button", { name: "I have copied it" }));
    await waitFor(() => expect(screen.queryByText(secret)).toBeNull());
  });

  it("keeps what was typed where it is refused", async () => {
    list([], {
      "POST /api/settings/tokens": new Refusal(409, {
        title: "There is a token of this name",
        detail: "Give this one another name, or revoke the other first.",
      }),
    });
    await fill();
    await userEvent.click(screen.getByLabelText("Read people, places and rights"));
    await userEvent.click(screen.getByRole("button", { name: "Make token" }));
    expect(await screen.findByText("There is a token of this name")).toBeDefined();
    expect(screen.getByLabelText<HTMLInputElement>("Name").value).toBe(" Monthly report ");
  });
});

describe("what a token can be", () => {
  it("is for what one may read in every one of its accounts", () => {
    expect(purposesOn(MAKEABLE, ["trust"])).toEqual(["access", "directory", "findings", "trail"]);
    expect(purposesOn(MAKEABLE, ["trust", "q"])).toEqual(["directory"]);
    expect(purposesOn(MAKEABLE, ["elsewhere"])).toEqual([]);
  });

  it("ends some days from now, to the second", () => {
    expect(endAfter(30, new Date("2026-11-29T10:00:00.123Z"))).toBe("2026-12-29T10:00:00Z");
  });
});
