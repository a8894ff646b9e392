import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { ACCOUNTS, Refusal, serve, show } from "@/shared/testing/served";
import { Exposure } from "./components/Exposure";
import { FindingList } from "./components/FindingList";
import { RuleCases } from "./components/RuleCases";
import { shareOf } from "./exposure";
import { namedOf, tensAround } from "./exposureChart";
import { filterOf, isNarrowed, pageOfRule, placesOf, stateOf } from "./model";

function finding(id: string, more: Partial<Schemas["FindingRow"]> = {}): Schemas["FindingRow"] {
  return {
    id,
    kind: "unused-role",
    title: "Unused role",
    harm: "clutter",
    risk: "moderate",
    weight: 1,
    said: `${id} isn't assigned anywhere`,
    aboutKind: "roles",
    about: id,
    aboutName: id,
    account: "brack",
    accountName: "Brack Hall",
    state: "new",
    since: "2026-11-03T09:00:00Z",
    revision: 12,
    mine: true,
    ...more,
  };
}

function answer(findings: Schemas["FindingRow"][], more: Partial<Schemas["FindingList"]> = {}) {
  return {
    "/api/accounts": { accounts: [] },
    "/api/views": { views: [] },
    "/api/findings": {
      lookedAt: "2026-11-30T08:00:00Z",
      cut: [],
      findings,
      total: findings.length,
      kinds: [{ kind: "unused-role", title: "Unused role", harm: "clutter", many: 2 }],
      owners: [{ key: "bas.quill", name: "Bas Quill", many: 3 }],
      elsewhere: false,
      ...more,
    },
  };
}

const REMEDY: Schemas["RemedyView"] = {
  act: "remove-role",
  label: "Remove role",
  said: ["The role map-room goes"],
  edits: [{ kind: "roles", key: "map-room", remove: true }],
};

describe("findings", () => {
  it("say what is wrong, how bad it is, where and since when", async () => {
    serve(answer([finding("map-room"), finding("flood", { risk: "critical", weight: 4968 })]));
    show(<FindingList />, "/checks");
    const row = await screen.findByRole("row", { name: /flood isn't assigned/ });
    expect(row.textContent).toContain("critical");
    expect(row.textContent).toContain("4,968");
    expect(row.textContent).toContain("Brack Hall");
    expect(row.textContent).toContain("3 Nov 2026");
  });

  it("are narrowed by what the address says", async () => {
    const calls = serve(answer([finding("map-room")]));
    show(<FindingList />, "/checks?harm=clutter&risk=high&within=brack&text=map");
    await screen.findByRole("row", { name: /map-room/ });
    const asked = calls.find((it) => it.path === "/api/findings");
    expect(asked?.query).toMatchObject({
      harm: "clutter",
      risk: "high",
      account: "brack",
      text: "map",
    });
    expect(screen.getByRole("button", { name: "Clear filters" })).toBeDefined();
  });

  it("are those of an owner, or of nobody", async () => {
    const calls = serve(answer([finding("map-room")]));
    show(<FindingList />, "/checks");
    await screen.findByRole("row", { name: /map-room/ });
    await userEvent.click(screen.getByRole("combobox", { name: "Owner" }));
    expect(await screen.findByTitle("No owner")).toBeDefined();
    await userEvent.click(screen.getByTitle("Bas Quill (3)"));
    await waitFor(() =>
      expect(calls.findLast((it) => it.path === "/api/findings")?.query).toMatchObject({
        owner: "bas.quill",
      }),
    );
    await userEvent.click(screen.getByRole("button", { name: "Clear filters" }));
    await waitFor(() =>
      expect(calls.findLast((it) => it.path === "/api/findings")?.query).not.toHaveProperty(
        "owner",
      ),
    );
  });

  it("open with what settles them, which goes into the draft", async () => {
    const sent: unknown[] = [];
    serve({
      ...answer([finding("map-room")]),
      "/api/findings/one": { finding: finding("map-room"), remedies: [REMEDY] },
      "POST /api/drafts/open/edits": ({ body }: { body: unknown }) => {
        sent.push(body);
        return {
          draft: { id: "d1", name: null, size: 1 },
          made: [],
          faults: 0,
        };
      },
      "POST /api/findings/drafted": ({ body }: { body: unknown }) => {
        sent.push(body);
        return { changed: 1 };
      },
    });
    show(<FindingList />, "/checks");
    await userEvent.click(await screen.findByRole("button", { name: /map-room isn't/ }));
    await userEvent.click(
      await screen.findByRole("button", { name: /^Remove role: add to draft/ }),
    );
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[0]).toMatchObject({ edits: [{ kind: "roles", key: "map-room", remove: true }] });
    expect(sent[1]).toEqual({ id: "map-room", draft: "d1" });
  });

  it("say so where nothing settles them by itself", async () => {
    const other = finding("other", { mine: false });
    serve({
      ...answer([other]),
      "/api/findings/one": { finding: other, remedies: [] },
    });
    show(<FindingList />, "/checks");
    await userEvent.click(await screen.findByRole("button", { name: /other isn't/ }));
    expect(await screen.findByText(/You can’t change this/)).toBeDefined();
    expect(screen.getByRole("link", { name: "Open other" }).getAttribute("href")).toBe(
      "/rights/roles/other",
    );
  });

  it("are accepted until a date, with a reason", async () => {
    const sent: unknown[] = [];
    serve({
      ...answer([finding("map-room"), finding("other", { mine: false })]),
      "POST /api/findings/accept": ({ body }: { body: unknown }) => {
        sent.push(body);
        return { changed: 1 };
      },
    });
    show(<FindingList />, "/checks");
    for (const box of (await screen.findAllByRole("checkbox")).slice(1)) {
      await userEvent.click(box);
    }
    const bar = screen.getByRole("region", { name: "Selected findings" });
    expect(bar.textContent).toContain("2 findings selected");
    expect(bar.textContent).toContain("You can’t decide about 1 of them.");
    await userEvent.click(within(bar).getByRole("button", { name: "Accept until a date" }));
    const dialog = await screen.findByRole("dialog");
    const accept = within(dialog).getByRole("button", { name: "Accept" });
    expect(accept.hasAttribute("disabled")).toBe(true);
    await userEvent.type(within(dialog).getByLabelText("Accept until"), "2027-03-01{Enter}");
    await userEvent.type(within(dialog).getByLabelText("Reason"), "The flood is not over");
    await userEvent.click(accept);
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toEqual({
      ids: ["map-room"],
      until: "2027-03-01T00:00:00Z",
      reason: "The flood is not over",
    });
  });

  it("say what was left out", async () => {
    serve(answer([], { cut: ["Escalation path"], elsewhere: true }));
    show(<FindingList />, "/checks");
    expect(await screen.findByText(/Not everything was looked at.*Escalation path/)).toBeDefined();
    expect(screen.getByText(/also findings in accounts where you can't see people/)).toBeDefined();
    expect(screen.getByText(/No findings. Add an expectation/)).toBeDefined();
  });

  it("are not there before the first look", async () => {
    const found: Partial<Schemas["FindingList"]> = { ...answer([])["/api/findings"] };
    delete found.lookedAt;
    serve({ ...answer([]), "/api/findings": found });
    show(<FindingList />, "/checks");
    expect(await screen.findByText(/Mandala is looking for findings/)).toBeDefined();
  });

  it("say who may not see them what to do", async () => {
    serve({
      "/api/findings": new Refusal(403, {
        title: "Not allowed",
        detail: "Your access does not cover the findings of any account.",
      }),
    });
    show(<FindingList />, "/checks");
    expect(await screen.findByText("You can't see findings")).toBeDefined();
    expect(screen.getByText(/Ask a security administrator/)).toBeDefined();
  });
});

describe("a broken rule", () => {
  const broken: Schemas["CheckedFinding"] = {
    id: "exclusion-broken two-pairs petra",
    kind: "exclusion",
    key: "two-pairs",
    name: "Two pairs of eyes",
    said: "Petra holds both sides",
    cases: [
      {
        principal: "petra",
        name: "Petra",
        account: "Quillhaven",
        permission: "loan.draft",
        permissionName: "Draft loans",
        resource: "loan-1",
        resourceName: "Loan 1",
        said: "side 1",
      },
    ],
    moreCases: 0,
    elsewhere: false,
  };

  it("leads to the rule, and each case to its routes", async () => {
    serve({
      "/api/checks": { at: "2026-11-27T09:00:00Z", findings: [broken], elsewhere: false },
      "/api/ask/routes": new Refusal(503, { title: "Busy", detail: "Try again." }),
    });
    show(<RuleCases id={broken.id} />, "/checks");
    const rule = await screen.findByRole("link", { name: "Two pairs of eyes" });
    expect(rule.getAttribute("href")).toBe("/checks?part=exclusions&open=two-pairs");
    const why = screen.getByRole("button", { name: "Why, and how to remove it: Petra" });
    await userEvent.click(why);
    expect(why.getAttribute("aria-expanded")).toBe("true");
  });

  it("says so where the draft resolves it", async () => {
    serve({ "/api/checks": { at: "2026-11-27T09:00:00Z", findings: [], elsewhere: false } });
    show(<RuleCases id={broken.id} />, "/checks");
    expect(await screen.findByText("Your draft resolves this violation.")).toBeDefined();
  });

  it.each([
    ["exclusion", "/checks?part=exclusions&open=registrar"],
    ["expectation", "/checks?part=expectations&open=registrar"],
    ["prerequisite", "/rights/roles/registrar"],
    ["holders", "/rights/roles/registrar"],
  ])("of the kind %s leads to a page there is", (kind, page) => {
    expect(pageOfRule(kind, "registrar")).toBe(page);
  });
});

describe("what a finding says", () => {
  it("is narrowed by anything but its order", () => {
    expect(isNarrowed(filterOf(new URLSearchParams("order=newest&part=findings")))).toBe(false);
    expect(filterOf(new URLSearchParams("within=osier&state=accepted"))).toEqual({
      account: "osier",
      state: "accepted",
    });
  });

  it("is its state, and why it came back", () => {
    expect(stateOf(finding("a"))).toBe("New");
    expect(stateOf(finding("a", { returned: "worse" }))).toBe("Worse than accepted");
    expect(stateOf(finding("a", { returned: "ended" }))).toBe("Acceptance ended");
    expect(stateOf(finding("a", { state: "in-draft" }))).toBe("In a draft");
  });

  it("leads from unused rights to the person's use", () => {
    const unused = finding("odile", { kind: "unused-rights", aboutKind: "principals" });
    expect(placesOf(unused).map((it) => it.to)).toEqual(["/people/odile?tab=use", "/people/odile"]);
  });
});

describe("exposure", () => {
  const people = [
    {
      key: "odile",
      name: "Odile Farrow",
      account: "Quillhaven",
      rights: 9,
      exposure: 200,
      unused: 150,
    },
    {
      key: "noor",
      name: "Noor Haddad",
      account: "Quillhaven",
      rights: 4,
      exposure: 100,
      unused: 10,
    },
  ];

  it("lists those who use least of it, each leading to their use", async () => {
    serve({
      "/api/accounts": ACCOUNTS,
      "/api/exposure": { countedAt: "2026-11-30T08:00:00Z", people, total: 7 },
    });
    show(<Exposure />, "/checks?part=exposure");
    const row = await screen.findByRole("row", { name: /Odile Farrow/ });
    expect(row.textContent).toContain("150");
    expect(row.textContent).toContain("75 %");
    expect(within(row).getByRole("link").getAttribute("href")).toBe("/people/odile?tab=use");
    expect(screen.getByText(/The 2 with the most unused exposure, of 7/)).toBeDefined();
  });

  it("is empty until it is counted", async () => {
    serve({ "/api/accounts": ACCOUNTS, "/api/exposure": { people: [], total: 0 } });
    show(<Exposure />, "/checks?part=exposure");
    expect(await screen.findByText(/Exposure is being counted/)).toBeDefined();
  });

  it("says who may not see it what to do", async () => {
    serve({
      "/api/accounts": ACCOUNTS,
      "/api/exposure": new Refusal(403, { title: "Not allowed", detail: "Ask." }),
    });
    show(<Exposure />, "/checks?part=exposure");
    expect(await screen.findByText("You can't see exposure")).toBeDefined();
  });

  it("is a share of none where there is none", () => {
    const [odile, noor] = people.map(shareOf);
    expect(odile).toBeCloseTo(0.75);
    expect(noor).toBeCloseTo(0.1);
    expect(people.map((it) => shareOf({ ...it, exposure: 0, unused: 0 }))).toEqual([0, 0]);
  });

  it("has an axis of powers of ten around all of it", () => {
    expect(tensAround([30, 4_000])).toEqual([10, 100, 1_000, 10_000]);
    expect(tensAround([100])).toEqual([100, 1_000]);
  });

  it("names those first who are not in the way of another name", () => {
    const person = (key: string, exposure: number, share: number) => ({
      ...{ key, name: key },
      ...{ exposure, share },
    });
    const named = namedOf([
      person("first", 1_000, 90),
      person("beside", 1_100, 90),
      person("below", 1_000, 50),
      person("far", 100, 90),
    ]);
    expect([...named]).toEqual(["first", "below", "far"]);
  });
});
