import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { MemoryRouter, useLocation } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import { api, type Schemas } from "../../../api/client";
import type { Permission, Question, Region } from "../model";
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

function answers(status: number, body: object) {
  const response = new Response(null, { status });
  const answer = response.ok ? { data: body, response } : { error: body, response };
  return vi.spyOn(api, "GET").mockResolvedValue(answer as never);
}

function Address() {
  return <output>{decodeURIComponent(useLocation().search)}</output>;
}

function show(regions: Region[]) {
  render(
    <QueryClientProvider
      client={new QueryClient({ defaultOptions: { queries: { retry: false } } })}
    >
      <MemoryRouter>
        <AccessTable
          regions={regions}
          permissions={permissions}
          question={question}
          unfold={false}
        />
        <Address />
      </MemoryRouter>
    </QueryClientProvider>,
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
      obstacles: ["denied by the assignment no to Noor", "not switched on"],
    },
  ],
  moreNear: 3,
};

describe("the table of regions", () => {
  afterEach(() => vi.restoreAllMocks());

  it("shows a mark for each permission, told by shape and in words", () => {
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

  it("reads what is inside of a large region when it is unfolded", async () => {
    const get = answers(200, [region("in"), region("deep", { more: true })]);
    show([region("desk", { more: true })]);
    expect(screen.getByText(/more inside/)).toBeTruthy();
    expect(get).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole("button", { name: /^.*desk/, expanded: false }));
    expect(await screen.findByRole("row", { name: /deep/ })).toBeTruthy();
    expect(get).toHaveBeenCalledWith("/api/ask/inside", {
      params: { query: { principal: "noor", secondFactor: true, in: "q", resource: "desk" } },
    });
    expect(screen.getAllByRole("row")).toHaveLength(4);
  });

  it("says that what is inside could not be read", async () => {
    answers(500, { title: "No", detail: "It broke." });
    show([region("desk", { more: true })]);
    await userEvent.click(screen.getByRole("button", { name: /^.*desk/, expanded: false }));
    expect(await screen.findByText(/could not be read/)).toBeTruthy();
  });

  it("unfolds what differs below", async () => {
    show([region("desk", { below: [region("in"), region("out")] })]);
    const desk = screen.getByRole("button", { name: /desk/, expanded: false });
    expect(screen.queryByText("out")).toBeNull();
    await userEvent.click(desk);
    expect(screen.getByText("out")).toBeTruthy();
    await userEvent.click(desk);
    expect(screen.queryByText("out")).toBeNull();
  });

  it("names the permissions and members of a row that is alike throughout", async () => {
    show([region("desk", { shape: "alike", members: ["Loan 1", "Loan 2"] })]);
    await userEvent.click(screen.getByRole("button", { name: /^\W*desk/ }));
    expect(screen.getByText("Loan 1, Loan 2")).toBeTruthy();
    expect(screen.getByText("Draft loans").textContent).toContain("gate missing");
  });

  it("opens the routes of a mark and puts them into the address", async () => {
    const get = answers(200, routes);
    show([region("desk")]);
    await userEvent.click(screen.getByRole("button", { name: /Approve loans/ }));
    const panel = await screen.findByRole("region", { name: "Routes" });
    expect(panel.textContent).toContain("Approve loans · on Loan 1 · denied");
    expect(panel.textContent).toContain("Would give it, but does not now");
    expect(panel.textContent).toContain("and 2 other ways to the same group");
    expect(panel.textContent).toContain("not switched on");
    expect(panel.textContent).toContain("and 3 more");
    expect(get.mock.calls[0]?.[1]).toMatchObject({
      params: {
        query: {
          principal: "noor",
          secondFactor: true,
          permission: "loan.approve",
          resource: "desk-1",
        },
      },
    });
    expect(screen.getByRole("status").textContent).toBe("?routes=loan.approve@desk-1@/desk");
    await userEvent.click(screen.getByRole("button", { name: /Approve loans/, pressed: true }));
    expect(screen.queryByRole("region", { name: "Routes" })).toBeNull();
  });

  it("says where routes cannot be told, and tries again", async () => {
    const get = answers(503, { title: "The database cannot be reached", detail: "Try again." });
    show([region("desk")]);
    await userEvent.click(screen.getByRole("button", { name: /View loans/ }));
    expect((await screen.findByRole("alert")).textContent).toContain(
      "The database cannot be reached",
    );
    await userEvent.click(screen.getByText("Try again"));
    expect(get).toHaveBeenCalledTimes(2);
  });

  it("says where nothing would give it", async () => {
    answers(200, { ...routes, verdict: "none", near: [], moreNear: 0 });
    show([region("desk")]);
    await userEvent.click(screen.getByRole("button", { name: /View loans/ }));
    expect(
      await screen.findByText("No assignment to them, or to any group, would give it here."),
    ).toBeTruthy();
  });
});
