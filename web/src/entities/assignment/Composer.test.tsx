import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { beforeEach, describe, expect, it } from "vitest";
import { serve, show } from "@/shared/testing/served";
import type { Clause } from "@/entities/scope/model";
import { Composer } from "./Composer";

const COVERS = {
  everything: false,
  relative: false,
  count: 3,
  sealedOff: 0,
  first: [],
  cut: false,
};

beforeEach(() => sessionStorage.clear());

function serveScope(everything: (scope: unknown[]) => boolean) {
  serve({
    "POST /api/places/scope": ({ body }) => ({
      ...COVERS,
      everything: everything((body as { scope: unknown[] }).scope),
    }),
  });
}

const guards = { ref: "group:guards", name: "Guards" };
const opening = { ref: "permission:door.open", name: "Open a door" };

function assign(scope: Clause[]) {
  show(
    <Composer open onClose={() => undefined} subject={guards} gives={opening} scope={scope} />,
    "/",
  );
}

function add(): HTMLElement {
  return screen.getByRole("button", { name: /draft/i });
}

describe("an assignment of everything", () => {
  it("is confirmed, and stays so when a clause is added", async () => {
    serveScope(() => false);
    assign([{ everything: true }]);
    const confirm = await screen.findByRole("checkbox", { name: /covers everything/ });
    expect(add()).toHaveProperty("disabled", true);
    await userEvent.click(confirm);
    await waitFor(() => expect(add()).toHaveProperty("disabled", false));
    await userEvent.click(screen.getByRole("button", { name: /Add another clause/ }));
    await userEvent.click(await screen.findByText("Records they own"));
    await waitFor(() => expect(add()).toHaveProperty("disabled", false));
    expect(screen.getByRole("checkbox", { name: /covers everything/ })).toHaveProperty(
      "checked",
      true,
    );
  });

  it("is confirmed where the server says that other clauses cover everything", async () => {
    serveScope((scope) => scope.length > 0);
    assign([{ tree: "account:trust" }]);
    await screen.findByRole("checkbox", { name: /covers everything/ });
    expect(add()).toHaveProperty("disabled", true);
  });

  it("asks before it closes with changes, and keeps them", async () => {
    serveScope(() => false);
    assign([{ tree: "hall" }]);
    await userEvent.click(await screen.findByRole("checkbox", { name: /Just-in-time/ }));
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(await screen.findByText("Discard what you typed?")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Keep editing" }));
    expect(screen.getByRole("checkbox", { name: /Just-in-time/ })).toHaveProperty("checked", true);
  });

  it("is not asked for where something is covered only", async () => {
    serveScope(() => false);
    assign([{ tree: "hall" }]);
    await waitFor(() => expect(add()).toHaveProperty("disabled", false));
    expect(screen.queryByRole("checkbox", { name: /covers everything/ })).toBeNull();
  });
});
