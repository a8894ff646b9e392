import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import type { Clause } from "./model";
import { ScopeBuilder } from "./ScopeBuilder";

const COVERS = {
  everything: false,
  relative: false,
  count: 0,
  sealedOff: 0,
  first: [],
  cut: false,
};

function Builder({ start }: { start: Clause[] }) {
  const [scope, setScope] = useState(start);
  return (
    <>
      <ScopeBuilder label="Where" scope={scope} onChange={setScope} />
      <output aria-label="scope">{JSON.stringify(scope)}</output>
    </>
  );
}

function built(): unknown {
  return JSON.parse(screen.getByLabelText("scope").textContent) as unknown;
}

describe("the scope builder", () => {
  it("begins with nothing, which covers nothing", () => {
    serve({ "POST /api/places/scope": COVERS });
    show(<Builder start={[]} />);
    expect(screen.getByText("Nothing chosen. An empty scope covers nothing.")).toBeDefined();
    expect(screen.getByRole("button", { name: "Where: Choose where" })).toBeDefined();
  });

  it("adds a place by name, and says what it covers", async () => {
    serve({
      "POST /api/places/scope": {
        ...COVERS,
        count: 112,
        sealedOff: 3,
        first: [{ key: "l-1", name: "Loan 1" }],
        cut: true,
      },
      "/api/places/choices": [
        { key: "desk", name: "Loans desk", typeName: "Desk", account: "Quillhaven" },
      ],
    });
    show(<Builder start={[]} />);
    await userEvent.click(screen.getByRole("button", { name: "Where: Choose where" }));
    await userEvent.click(await screen.findByText("A place and everything below it"));
    await userEvent.click(await screen.findByText("Loans desk"));
    expect(built()).toEqual([{ tree: "desk" }]);
    expect(screen.getByText("everything in Loans desk")).toBeDefined();
    expect(
      await screen.findByText(
        "112 resources, 3 of them sealed off: Loan 1… (only accounts you can see)",
      ),
    ).toBeDefined();
  });

  it("narrows a clause, adds another one, and removes one", async () => {
    serve({ "POST /api/places/scope": { ...COVERS, count: 4, relative: true } });
    show(<Builder start={[{ tree: "desk" }]} />);
    await userEvent.click(screen.getByRole("button", { name: /Narrow clause 1/ }));
    await userEvent.click(await screen.findByText("Records they own"));
    expect(built()).toEqual([{ tree: "desk", owner: "self" }]);
    await userEvent.click(screen.getByRole("button", { name: /Add another clause/ }));
    await userEvent.click((await screen.findAllByText("Their own account")).at(-1)!);
    expect(built()).toEqual([{ tree: "desk", owner: "self" }, { account: "own" }]);
    expect(await screen.findByText("up to 4 resources")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Remove clause 1" }));
    expect(built()).toEqual([{ account: "own" }]);
  });

  it("takes a label only with a name and a value", async () => {
    serve({ "POST /api/places/scope": COVERS });
    show(<Builder start={[]} />);
    await userEvent.click(screen.getByRole("button", { name: "Where: Choose where" }));
    await userEvent.type(await screen.findByRole("combobox"), "label");
    await userEvent.click(await screen.findByText("Places with a label"));
    const field = await screen.findByLabelText("Label, as in floor=2");
    await userEvent.type(field, "floor{Enter}");
    expect(await screen.findByText("Write a name, =, and a value.")).toBeDefined();
    await userEvent.type(field, "=2{Enter}");
    expect(await screen.findByText("floor 2")).toBeDefined();
    expect(built()).toEqual([{ labels: { floor: "2" } }]);
  });

  it("says why it can't be counted", async () => {
    serve({
      "POST /api/places/scope": new Refusal(422, {
        title: "The scope has an error",
        detail: "Fix it.",
      }),
    });
    show(<Builder start={[{ tree: "gone" }]} />);
    expect(
      await screen.findByText("What it covers can't be counted: The scope has an error."),
    ).toBeDefined();
  });
});
