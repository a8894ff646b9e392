import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import type { Permission, Question, Region } from "@/entities/access/model";
import { Refusal, serve, show as showPage } from "@/shared/testing/served";
import { AccessTable } from "./AccessTable";

const question: Question = {
  who: "noor",
  in: "q",
  doors: false,
  at: "",
  factor: true,
  actingFor: "",
};

const permissions = new Map<string, Permission>(
  [
    { key: "loan.view", name: "View loans", accessClass: "view", risk: "low" },
    { key: "loan.draft", name: "Draft loans", accessClass: "change", risk: "moderate" },
    { key: "loan.approve", name: "Approve loans", accessClass: "administer", risk: "high" },
  ].map((it) => [it.key, it]),
);

function region(resource: string, more: Partial<Region> = {}): Region {
  const cell = { applicable: 4, allowed: 0, blocked: 0, denied: 0, sample: `${resource}-1` };
  return {
    shape: "tree",
    resource,
    name: resource,
    account: "q",
    note: "4 × loan",
    size: 4,
    door: false,
    sealed: false,
    members: [],
    cells: [
      { ...cell, permission: "loan.view", allowed: 4 },
      { ...cell, permission: "loan.draft", blocked: 4 },
      { ...cell, permission: "loan.approve", denied: 1 },
    ],
    below: [],
    more: false,
    ...more,
  };
}

function show(regions: Region[]) {
  showPage(
    <AccessTable regions={regions} permissions={permissions} question={question} unfold={false} />,
  );
}

const routes: Schemas["RoutesAnswer"] = {
  verdict: "denied",
  principal: { key: "noor", name: "Noor" },
  permission: { key: "loan.approve", name: "Approve loans" },
  resource: { key: "desk-1", name: "Loan 1" },
  live: [],
  near: [
    {
      steps: [
        { kind: "person", key: "noor", name: "Noor", remark: "person" },
        { kind: "role", key: "lead", name: "Loans lead", remark: "role" },
      ],
      otherPaths: 2,
      obstacles: ["denied by the assignment no to Noor", "not activated"],
    },
  ],
  moreNear: 3,
};

describe("the table of regions", () => {
  it("shows a mark for each permission, by shape and in words", () => {
    show([region("desk")]);
    const row = screen.getByRole("row", { name: /desk/ });
    expect(
      within(row)
        .getAllByRole("button", { name: /Show routes/ })
        .map((it) => it.getAttribute("data-verdict")),
    ).toEqual(["allowed", "blocked", "denied"]);
    expect(
      screen.getByRole("button", { name: "Approve loans: denied on 1 of 4, desk. Show routes" }),
    ).toBeTruthy();
    expect(screen.getByText("Where · 1 region of 4 resources")).toBeTruthy();
  });

  it("is sorted and its columns are chosen, as the address keeps it", async () => {
    showPage(
      <AccessTable
        regions={[region("a"), region("c"), region("b")]}
        permissions={permissions}
        question={question}
        unfold={false}
      />,
      "/ask?answer.sort=-where&answer.hide=view",
    );
    const places = () =>
      screen.getAllByRole("button", { name: /^[abc] 4/ }).map((it) => it.textContent[0]);
    expect(places()).toEqual(["c", "b", "a"]);
    expect(screen.queryByRole("columnheader", { name: "View" })).toBeNull();
    await userEvent.click(screen.getByRole("columnheader", { name: "Change" }));
    expect(places()).toEqual(["a", "b", "c"]);
  });

  it("reads what is inside of a large region when it is unfolded", async () => {
    const calls = serve({ "/api/ask/inside": [region("in"), region("deep", { more: true })] });
    show([region("desk", { more: true })]);
    expect(screen.getByText(/more inside/)).toBeTruthy();
    expect(calls).toHaveLength(0);
    await userEvent.click(screen.getByRole("button", { name: /^desk 4/ }));
    expect(await screen.findByRole("row", { name: /deep/ })).toBeTruthy();
    expect(calls[0]?.query).toEqual({
      principal: "noor",
      secondFactor: "true",
      in: "q",
      resource: "desk",
    });
    expect(screen.getAllByRole("row")).toHaveLength(4);
  });

  it("says that what is inside could not be read", async () => {
    serve({ "/api/ask/inside": new Refusal(500, { title: "No", detail: "It broke." }) });
    show([region("desk", { more: true })]);
    await userEvent.click(screen.getByRole("button", { name: /^desk 4/ }));
    expect(await screen.findByText(/could not be loaded/)).toBeTruthy();
  });

  it("unfolds what differs below", async () => {
    show([region("desk", { below: [region("in"), region("out")] })]);
    const desk = screen.getByRole("button", { name: /^desk 4/ });
    expect(screen.queryByText("out")).toBeNull();
    await userEvent.click(desk);
    expect(screen.getByText("out")).toBeTruthy();
    await userEvent.click(desk);
    expect(screen.queryByText("out")).toBeNull();
  });

  it("names the permissions and members of a row that is alike throughout", async () => {
    show([region("desk", { shape: "alike", members: ["Loan 1", "Loan 2"] })]);
    await userEvent.click(screen.getByRole("button", { name: /^desk 4/ }));
    expect(screen.getByText("Loan 1, Loan 2")).toBeTruthy();
    expect(screen.getByText("Draft loans").textContent).toContain("a gate is missing");
  });

  it("opens the routes of a mark and puts them into the address", async () => {
    const calls = serve({ "/api/ask/routes": routes });
    show([region("desk")]);
    await userEvent.click(screen.getByRole("button", { name: /Approve loans/ }));
    const panel = await screen.findByRole("region", { name: "Routes" });
    expect(panel.textContent).toContain("Approve loans · on Loan 1 · denied");
    expect(panel.textContent).toContain("Not in effect now");
    expect(panel.textContent).toContain("and 2 other paths to the same group");
    expect(panel.textContent).toContain("not activated");
    expect(panel.textContent).toContain("and 3 more");
    expect(calls[0]?.query).toMatchObject({
      principal: "noor",
      secondFactor: "true",
      permission: "loan.approve",
      resource: "desk-1",
    });
    expect(screen.getByLabelText("address").textContent).toBe("/?routes=loan.approve@desk-1@/desk");
    await userEvent.click(screen.getByRole("button", { name: /Approve loans/, expanded: true }));
    expect(screen.queryByRole("region", { name: "Routes" })).toBeNull();
  });

  it("says where routes cannot be told, and tries again", async () => {
    const calls = serve({
      "/api/ask/routes": new Refusal(503, {
        title: "The database cannot be reached",
        detail: "Try again.",
      }),
    });
    show([region("desk")]);
    await userEvent.click(screen.getByRole("button", { name: /View loans/ }));
    expect((await screen.findByRole("alert")).textContent).toContain(
      "The database cannot be reached",
    );
    await userEvent.click(screen.getByText("Try again"));
    await waitFor(() => expect(calls).toHaveLength(2));
  });

  it("says where nothing would give it", async () => {
    serve({ "/api/ask/routes": { ...routes, verdict: "none", near: [], moreNear: 0 } });
    show([region("desk")]);
    await userEvent.click(screen.getByRole("button", { name: /View loans/ }));
    expect(
      await screen.findByText("No assignment to them or to any group of theirs grants it here."),
    ).toBeTruthy();
  });
});
