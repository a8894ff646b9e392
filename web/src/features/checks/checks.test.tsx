import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { Refusal, serve, show } from "@/shared/testing/served";
import { Findings } from "./components/Findings";
import { rulesOf } from "./model";

function finding(key: string, said: string): Schemas["CheckedFinding"] {
  return {
    kind: "exclusion",
    key,
    name: `Rule ${key}`,
    said,
    cases: [],
    moreCases: 0,
    elsewhere: false,
    since: "2026-11-03T09:00:00Z",
    revision: 12,
  };
}

describe("findings", () => {
  it("of one rule stand together, in the order of the rules", () => {
    const rules = rulesOf([finding("a", "1"), finding("b", "2"), finding("a", "3")]);
    expect(rules.map((it) => [it.key, it.findings.map((each) => each.said)])).toEqual([
      ["a", ["1", "3"]],
      ["b", ["2"]],
    ]);
  });

  it("name a rule once, and since when each breaks it", async () => {
    serve({
      "/api/checks": {
        at: "2026-11-27T09:00:00Z",
        findings: [finding("a", "Petra takes 2 sides"), finding("a", "Arlo takes 2 sides")],
        elsewhere: true,
      },
    });
    show(<Findings />, "/checks");
    const heading = await screen.findByRole("heading", { name: /Rule a/ });
    const section = heading.closest("section") as HTMLElement;
    expect(within(section).getAllByRole("listitem")).toHaveLength(2);
    expect(section.textContent).toContain("since 3 Nov 2026, 09:00 UTC, revision 12");
    expect(screen.getByText(/also violations in accounts/)).toBeDefined();
  });

  it("stay themselves when a draft settles another one", async () => {
    const one = (who: string) => ({
      ...finding("a", `${who} takes 2 sides`),
      cases: [
        {
          principal: who,
          name: who,
          permission: "loan.draft",
          permissionName: "Draft loans",
          resource: "loan-1",
          resourceName: "Loan 1",
        },
      ],
    });
    let left = [one("arlo"), one("petra")];
    serve({
      "/api/checks": () => ({ at: "2026-11-27T09:00:00Z", findings: left, elsewhere: false }),
      "/api/ask/routes": new Refusal(503, { title: "Busy", detail: "Try again." }),
    });
    const client = show(<Findings />, "/checks");
    const why = await screen.findByRole("button", { name: "Why, and how to remove it: arlo" });
    await userEvent.click(why);
    expect(why.getAttribute("aria-expanded")).toBe("true");
    left = [one("petra")];
    await client.invalidate();
    await waitFor(() => expect(screen.queryByText(/arlo takes/)).toBeNull());
    const other = screen.getByRole("button", { name: "Why, and how to remove it: petra" });
    expect(other.getAttribute("aria-expanded")).toBe("false");
  });

  it("lead to their rule", async () => {
    serve({
      "/api/checks": {
        at: "2026-11-27T09:00:00Z",
        findings: [finding("two-pairs", "Petra takes 2 sides")],
        elsewhere: false,
      },
    });
    show(<Findings />, "/checks");
    const rule = await screen.findByRole("link", { name: "Rule two-pairs" });
    expect(rule.getAttribute("href")).toBe("/checks?part=exclusions&open=two-pairs");
  });

  it("are none where every rule holds", async () => {
    serve({ "/api/checks": { at: "2026-11-27T09:00:00Z", findings: [], elsewhere: false } });
    show(<Findings />, "/checks");
    expect(await screen.findByText(/No violations/)).toBeDefined();
  });

  it("say who may not see them what to do", async () => {
    serve({
      "/api/checks": new Refusal(403, {
        title: "Not allowed",
        detail: "Your access does not cover the rules of any account.",
      }),
    });
    show(<Findings />, "/checks");
    expect(await screen.findByText("You can't see findings")).toBeDefined();
    expect(screen.getByText(/Ask a security administrator/)).toBeDefined();
  });
});
