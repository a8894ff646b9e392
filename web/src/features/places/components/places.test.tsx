import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { PlaceView } from "@/entities/place/queries";
import { ACCOUNTS, openDraft, Refusal, serve, show } from "@/shared/testing/served";
import { setWidth } from "@/shared/testing/setup";
import { LabelForm } from "./LabelForm";
import { Matrix } from "./Matrix";
import { PlaceTree } from "./PlaceTree";

function place(key: string, more: Partial<PlaceView> = {}): PlaceView {
  return {
    key,
    name: key,
    type: "room",
    typeName: "Room",
    account: "q",
    children: 0,
    sealed: false,
    labels: {},
    ...more,
  };
}

const hall = place("hall", { name: "Great hall" });
const matrix = {
  permissions: [
    { key: "room.view", name: "View rooms", accessClass: "view", risk: "low" },
    { key: "room.open", name: "Open rooms", accessClass: "change", risk: "high" },
  ],
  rows: [
    {
      subject: "group:guards",
      name: "Guards",
      kind: "group",
      cells: {
        "room.view": { way: "own", effect: "allow", assignment: "a1" },
        "room.open": { way: "inherited", effect: "deny", assignment: "a2", sealedBy: "Vault" },
      },
    },
  ],
  assignments: { a1: { givesName: "View rooms", where: "only Great hall" } },
};

function edits(calls: ReturnType<typeof serve>): unknown[] {
  return calls.filter((it) => it.path.endsWith("/edits")).map((it) => it.body);
}

describe("the access matrix", () => {
  const answers = {
    "/api/accounts": ACCOUNTS,
    "/api/places/matrix": matrix,
    "POST /api/drafts/open/edits": openDraft(1),
  };

  it("names each cell by subject, permission and state", async () => {
    serve(answers);
    show(<Matrix place={hall} />);
    expect(
      await screen.findByRole("button", { name: "Guards, View rooms: granted, set here" }),
    ).toBeDefined();
    expect(
      screen.getByRole("button", {
        name: "Guards, Open rooms: denied, inherited, but sealed off at Vault",
      }),
    ).toBeDefined();
  });

  it("moves by arrows, and grants, denies and clears by key", async () => {
    const calls = serve(answers);
    show(<Matrix place={hall} />);
    const view = await screen.findByRole("button", { name: /View rooms/ });
    view.focus();
    await userEvent.keyboard("{ArrowRight}");
    expect(document.activeElement).toBe(screen.getByRole("button", { name: /Open rooms/ }));
    await userEvent.keyboard("a");
    await waitFor(() => expect(edits(calls)).toHaveLength(1));
    expect(edits(calls)[0]).toMatchObject({
      edits: [
        { kind: "assignments", after: { subject: "group:guards", scope: [{ only: "hall" }] } },
      ],
    });
    await userEvent.keyboard("{ArrowLeft}d");
    await waitFor(() => expect(edits(calls)).toHaveLength(2));
    expect(edits(calls)[1]).toEqual({
      edits: [{ kind: "assignments", key: "a1", set: { effect: "deny" } }],
    });
    await userEvent.keyboard("{Delete}");
    await waitFor(() => expect(edits(calls)).toHaveLength(3));
    expect(edits(calls)[2]).toEqual({ edits: [{ kind: "assignments", key: "a1", remove: true }] });
  });

  it("has a menu for each cell, which clears only what is set here", async () => {
    serve(answers);
    show(<Matrix place={hall} />);
    await userEvent.click(await screen.findByRole("button", { name: /Open rooms/ }));
    const clear = await screen.findByRole("button", { name: /Clear/ });
    expect(clear).toHaveProperty("disabled", true);
    expect(screen.getByRole("button", { name: /Grant here/ })).toHaveProperty("disabled", false);
  });

  it("offers nothing to do to those who may not assign", async () => {
    const accounts = ACCOUNTS.accounts.map((it) => ({ ...it, may: [] }));
    const calls = serve({ ...answers, "/api/accounts": { ...ACCOUNTS, accounts } });
    show(<Matrix place={hall} />);
    const cell = await screen.findByRole("button", { name: /View rooms/ });
    await waitFor(() => expect(screen.queryByText("Add a subject")).toBeNull());
    expect(screen.queryByText(/to grant/)).toBeNull();
    cell.focus();
    await userEvent.keyboard("d");
    await userEvent.click(cell);
    expect(await screen.findByText("You can't assign access here.")).toBeDefined();
    expect(edits(calls)).toEqual([]);
  });

  it("shows one permission at a time on a narrow screen", async () => {
    setWidth(390);
    serve(answers);
    show(<Matrix place={hall} />);
    expect(await screen.findByRole("button", { name: /View rooms/ })).toBeDefined();
    expect(screen.queryByRole("button", { name: /Open rooms/ })).toBeNull();
    expect(screen.getByRole("combobox", { name: "Permission" })).toBeDefined();
  });

  it("says why an edit was refused", async () => {
    serve({
      ...answers,
      "POST /api/drafts/open/edits": new Refusal(409, {
        title: "Too many edits",
        detail: "Apply first.",
      }),
    });
    show(<Matrix place={hall} />);
    (await screen.findByRole("button", { name: /View rooms/ })).focus();
    await userEvent.keyboard("d");
    expect(await screen.findByText("Too many edits")).toBeDefined();
  });
});

describe("the tree of places", () => {
  const below: Record<string, object> = {
    "account:q": { total: 3, places: [place("desk", { children: 1 }), place("hall")] },
    desk: { total: 1, places: [place("loan-1")] },
  };

  it("is unfolded to the chosen place, and says what is not listed", async () => {
    serve({ "/api/places/below": ({ query }) => below[query["place"] ?? ""] ?? {} });
    show(
      <PlaceTree
        root="account:q"
        path={["account:q", "desk"]}
        chosen="loan-1"
        onChoose={vi.fn()}
      />,
    );
    expect(await screen.findByText("loan-1")).toBeDefined();
    expect(screen.getByText(/1 more are not listed/)).toBeDefined();
  });

  it("chooses a place by a click", async () => {
    const choose = vi.fn();
    serve({ "/api/places/below": ({ query }) => below[query["place"] ?? ""] ?? {} });
    show(<PlaceTree root="account:q" path={["account:q"]} chosen="" onChoose={choose} />);
    await userEvent.click(await screen.findByText("hall"));
    expect(choose).toHaveBeenCalledWith("hall");
  });
});

describe("labels", () => {
  it("are written one a line, and a line without a value is an error", async () => {
    const put = vi.fn();
    show(<LabelForm labels={{ floor: "2" }} onPut={put} />);
    const field = screen.getByRole<HTMLTextAreaElement>("textbox");
    expect(field.value).toBe("floor=2");
    await userEvent.type(field, "\nwing");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    expect(await screen.findByText(/Each line needs a name/)).toBeDefined();
    await userEvent.type(field, "=north");
    await userEvent.click(screen.getByRole("button", { name: "Add to draft" }));
    await waitFor(() => expect(put).toHaveBeenCalledWith({ floor: "2", wing: "north" }));
  });
});
