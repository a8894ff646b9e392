import { screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { ThingView } from "@/entities/thing/queries";
import { ACCOUNTS, openDraft, serve, show } from "@/shared/testing/served";
import { OwnPermissions } from "./components/OwnPermissions";
import { PatternTable } from "./components/PatternTable";

const pattern = {
  kind: "patterns",
  key: "trainee",
  name: "Trainee",
  account: "q",
  supplied: false,
  said: "Trainee",
  thing: { key: "trainee", description: "Learns the trade" },
} as ThingView;

describe("patterns", () => {
  it("stand with their account by name, and open to what they give and to whom", async () => {
    serve({
      "/api/accounts": ACCOUNTS,
      "/api/rights/patterns/trainee": {
        pattern,
        size: 3,
        people: [
          { key: "ada", name: "Ada Renn", kind: "person", active: true },
          { key: "bo", name: "Bo Finch", kind: "person", active: false },
        ],
        gives: [],
      },
    });
    show(<PatternTable patterns={[pattern]} />, "/rights/patterns");
    expect(await screen.findByText("Quillhaven")).toBeDefined();
    expect(screen.getByText("Learns the trade")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Trainee" }));
    expect(screen.getByLabelText("address").textContent).toContain("open=trainee");
    expect((await screen.findByText("Ada Renn")).getAttribute("href")).toBe("/people/ada");
    expect(screen.getByText("To 3 people")).toBeDefined();
    expect(screen.getByText("and 1 more person")).toBeDefined();
    expect(screen.getByText("No assignments.")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Trainee" }));
    expect(screen.getByRole("button", { name: "Trainee" }).getAttribute("aria-expanded")).toBe(
      "false",
    );
  });
});

describe("single permissions of a role", () => {
  const role = { key: "lead", name: "Loans lead", supplied: false } as ThingView;

  function own(sets: string[], more: object = {}) {
    serve({
      "/api/accounts": ACCOUNTS,
      "/api/things/permissionSets": {
        things: [{ key: "lead-own", name: "Only", thing: { allow: ["loan.ship"] } }],
        total: 1,
      },
      "/api/things/permissions": {
        things: [{ key: "loan.ship", name: "Ship loans", thing: {} }],
        total: 1,
      },
      "POST /api/drafts/open/edits": openDraft(1),
    });
    const edits: unknown[] = [];
    show(
      <OwnPermissions
        role={{ ...role, ...more, thing: { sets } }}
        onEdits={(it) => edits.push(...it)}
      />,
    );
    return edits;
  }

  it("are those of the set that was made for it, and are removed from it", async () => {
    const edits = own(["lead-own"]);
    expect(await screen.findByText("Ship loans")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: /Remove.*(Ship loans|loan\.ship)/ }));
    expect(edits).toEqual([
      { kind: "permissionSets", key: "lead-own", drop: { allow: ["loan.ship"] } },
    ]);
  });

  it("are none where the role has no such set, and can't be changed by whoever may not", () => {
    own([], { cannot: "You need “Define rights”." });
    expect(screen.queryByText("Ship loans")).toBeNull();
    expect(screen.queryByRole("button")).toBeNull();
  });
});
