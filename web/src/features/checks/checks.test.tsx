import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { Refusal, serve, show } from "@/shared/testing/served";
import { Findings } from "./components/Findings";
import { pageOfRule } from "./model";

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

function caseOf(who: string, account: string): Schemas["CheckedCase"] {
  return {
    principal: who,
    name: who,
    account,
    permission: "loan.draft",
    permissionName: "Draft loans",
    resource: "loan-1",
    resourceName: "Loan 1",
    said: "side 1",
  };
}

describe("findings", () => {
  it("say which rule each breaks, where, and since when", async () => {
    serve({
      "/api/checks": {
        at: "2026-11-27T09:00:00Z",
        findings: [
          { ...finding("a", "Petra takes 2 sides"), cases: [caseOf("petra", "Fernwick")] },
          { ...finding("b", "Arlo takes 2 sides"), cases: [caseOf("arlo", "Quillhaven")] },
        ],
        elsewhere: true,
      },
    });
    show(<Findings />, "/checks");
    const row = await screen.findByRole("row", { name: /Petra takes 2 sides/ });
    expect(within(row).getByRole("link", { name: "Rule a" })).toBeDefined();
    expect(row.textContent).toContain("Fernwick");
    expect(row.textContent).toContain("3 Nov 2026, 09:00 UTC");
    expect(within(row).getByRole("link", { name: "revision 12" })).toBeDefined();
    expect(screen.getByText(/also violations in accounts/)).toBeDefined();
  });

  it("are sorted, and their columns chosen, by the address", async () => {
    serve({
      "/api/checks": {
        at: "2026-11-27T09:00:00Z",
        findings: [
          finding("a", "Petra takes 2 sides"),
          finding("c", "Noor takes 2 sides"),
          finding("b", "Arlo takes 2 sides"),
        ],
        elsewhere: false,
      },
    });
    show(<Findings />, "/checks?findings.sort=-rule&findings.hide=since");
    await screen.findByRole("row", { name: /Petra/ });
    const rules = screen.getAllByRole("link", { name: /^Rule/ }).map((it) => it.textContent);
    expect(rules).toEqual(["Rule c", "Rule b", "Rule a"]);
    expect(screen.queryByText(/3 Nov 2026/)).toBeNull();
    expect(screen.getByRole("button", { name: "Views" })).toBeDefined();
    await userEvent.click(screen.getByRole("columnheader", { name: "Finding" }));
    const said = screen.getAllByRole("row").map((it) => it.textContent.split(" ")[0] ?? "");
    expect(said.slice(1).map((it) => it.replace("Finding", ""))).toEqual(["Arlo", "Noor", "Petra"]);
  });

  it("stay themselves when a draft settles another one", async () => {
    const one = (who: string) => ({
      ...finding("a", `${who} takes 2 sides`),
      cases: [caseOf(who, "Quillhaven")],
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

  it.each([
    ["exclusion", "/checks?part=exclusions&open=registrar"],
    ["expectation", "/checks?part=expectations&open=registrar"],
    ["prerequisite", "/rights/roles/registrar"],
    ["holders", "/rights/roles/registrar"],
  ])("of the kind %s lead to a page there is", (kind, page) => {
    expect(pageOfRule(kind, "registrar")).toBe(page);
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
