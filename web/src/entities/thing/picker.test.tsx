import { act, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { WhoContext } from "@/entities/session";
import { ACCOUNTS, person, serve, show } from "@/shared/testing/served";
import { NamePicker } from "./NamePicker";
import { merged, type Pickable } from "./pickable";

beforeEach(() => sessionStorage.clear());

const thing = (key: string, name: string, kind = "roles"): Pickable => ({
  ref: key,
  key,
  kind,
  name,
});

describe("names of several kinds", () => {
  it("stand with exact ones first, then those that begin with the text", () => {
    const found = merged(
      [
        [thing("a", "Reloan"), thing("b", "Outgoing loan")],
        [thing("c", "Loans desk"), thing("d", "Loan")],
      ],
      " loan ",
    );
    expect(found.map((it) => it.key)).toEqual(["d", "c", "b", "a"]);
    expect(merged([[thing("a", "X")], [thing("b", "A")]], "").map((it) => it.key)).toEqual([
      "a",
      "b",
    ]);
  });
});

describe("the picker", () => {
  const answers = {
    "/api/accounts": ACCOUNTS,
    "/api/things/roles": {
      things: [{ key: "lead", name: "Loans lead", account: "q", thing: {}, supplied: false }],
      total: 1,
    },
    "/api/things/permissions": {
      things: [{ key: "loan.approve", name: "Approve loans", thing: {}, supplied: false }],
      total: 1,
    },
  };

  function pick() {
    const onChoose = vi.fn<(it: Pickable) => void>();
    const shown = show(
      <WhoContext value={person()}>
        <NamePicker label="What" kinds={["roles", "permissions"]} onChoose={onChoose} />
      </WhoContext>,
    );
    return { ...shown, onChoose };
  }

  it("searches all kinds at once, and is narrowed to one without losing the focus", async () => {
    const calls = serve(answers);
    pick();
    await userEvent.type(screen.getByRole("combobox", { name: "What" }), "loan");
    expect(await screen.findByText("Loans lead")).toBeDefined();
    expect(screen.getByText("Approve loans")).toBeDefined();
    act(() => screen.getByRole("radio", { name: "Permissions" }).click());
    await waitFor(() => expect(screen.queryByText("Loans lead")).toBeNull());
    expect(document.activeElement).toBe(screen.getByRole("combobox", { name: "What" }));
    expect(calls.some((it) => it.query["text"] === "loan")).toBe(true);
  });

  it("offers what was chosen last first", async () => {
    serve(answers);
    const { onChoose, unmount } = pick();
    await userEvent.click(await screen.findByText("Approve loans"));
    expect(onChoose.mock.calls[0]?.[0]).toMatchObject({
      ref: "permission:loan.approve",
      kind: "permissions",
    });
    unmount();
    pick();
    expect(await screen.findByText(/recent, permission/)).toBeDefined();
  });
});
