import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { WhoContext } from "@/entities/session";
import {
  ACCOUNTS as accounts,
  person,
  Refusal,
  serve,
  show as showPage,
} from "@/shared/testing/served";
import type { ReactElement } from "react";
import { AskPage } from "./AskPage";
import { EscalationPage } from "./EscalationPage";
import { ComparePage } from "./ComparePage";
import { WhoPage } from "./WhoPage";
import { WhyPage } from "./WhyPage";

function show(page: ReactElement, address: string) {
  return showPage(<WhoContext value={person()}>{page}</WhoContext>, address);
}

function petals(view = 0): Schemas["Petal"][] {
  return ["view", "change", "administer"].map((accessClass, at) => ({
    accessClass,
    applicable: 10,
    reached: at === 0 ? view : 0,
    blocked: 0,
    denied: 0,
    ...(at === 0 && view > 0 && { risk: "low" }),
  }));
}

function figure(rights: number): Schemas["FigureView"] {
  return {
    rights,
    sectors: [
      {
        key: "loans",
        name: "Loans",
        account: false,
        door: false,
        size: 10,
        petals: petals(rights),
      },
    ],
  };
}

const answer: Schemas["AccessAnswer"] = {
  principal: { key: "noor", name: "Noor Haddad" },
  in: { key: "q", name: "Quillhaven" },
  at: "2026-11-27T09:00:00Z",
  secondFactor: true,
  secondFactorCounts: true,
  limited: false,
  everybody: false,
  through: [],
  hiddenThrough: false,
  draftCut: false,
  switchable: [],
  figure: figure(4),
  regions: [],
  permissions: [],
};

describe("What can they do", () => {
  it("tells what comes from whom where everybody is asked for", async () => {
    const calls = serve({
      "/api/accounts": accounts,
      "/api/ask/access": {
        ...answer,
        everybody: true,
        through: [{ key: "petra", name: "Petra Lowe", rights: 779, more: 110 }],
        hiddenThrough: true,
      },
    });
    show(<AskPage />, "/ask?who=noor&in=q&factor=1&for=*");
    const from = await screen.findByRole("list", { name: "What each delegation adds" });
    expect(from.textContent).toContain(
      "acting for Petra Lowe: 779 rights, 110 of them beyond their own",
    );
    expect(screen.getByText(/people you can't ask about/)).toBeDefined();
    expect(screen.getByText("themselves and everyone they can act for")).toBeDefined();
    expect(calls.find((it) => it.path === "/api/ask/access")?.query.actingFor).toBe("*");
  });

  it("says that there is nobody to act for", async () => {
    serve({ "/api/accounts": accounts, "/api/ask/access": { ...answer, everybody: true } });
    show(<AskPage />, "/ask?who=noor&in=q&for=*");
    expect(await screen.findByText(/They can't act for anyone at that time/)).toBeDefined();
  });

  it("treats just-in-time assignments as active, and not any more", async () => {
    const switchable = [
      { key: "night", said: "Noor Haddad: Night keys", on: false },
      { key: "vault", said: "Noor Haddad: Vault", on: true },
    ];
    const calls = serve({
      "/api/accounts": accounts,
      "/api/ask/access": { ...answer, switchable },
    });
    show(<AskPage />, "/ask?who=noor&in=q&factor=1");
    await screen.findByText("Noor Haddad");
    await userEvent.click(await screen.findByRole("button", { name: "Add a condition" }));
    await userEvent.click(await screen.findByText("With just-in-time access activated"));
    await userEvent.click(await screen.findByText("what they have activated (1)"));
    const boxes = await screen.findAllByRole<HTMLInputElement>("checkbox");
    expect(boxes.map((it) => [it.checked, it.disabled])).toEqual([
      [false, false],
      [true, true],
    ]);
    await userEvent.click(boxes[0] as HTMLInputElement);
    await waitFor(() =>
      expect(screen.getByLabelText("address").textContent).toContain("with=night"),
    );
    expect(calls.at(-1)?.query.on).toBe("night");
    expect(screen.getByText("1 activated")).toBeDefined();
    await userEvent.click(boxes[0] as HTMLInputElement);
    await waitFor(() =>
      expect(screen.getByLabelText("address").textContent).not.toContain("with=night"),
    );
  });

  it("says in words why there is nothing", async () => {
    serve({ "/api/accounts": accounts, "/api/ask/access": { ...answer, refusal: "inactive" } });
    show(<AskPage />, "/ask?who=noor&in=q");
    expect(await screen.findByText("Noor Haddad is not active at that time")).toBeDefined();
  });

  it("shows a refusal with what to do", async () => {
    serve({
      "/api/accounts": accounts,
      "/api/ask/access": new Refusal(404, {
        title: "There is no such thing",
        detail: "There is nobody called 'noor' whose access you may ask about.",
      }),
    });
    show(<AskPage />, "/ask?who=noor&in=q");
    expect(await screen.findByText(/nobody called 'noor'/)).toBeDefined();
  });

  it("asks nothing about an instant that cannot be read", async () => {
    const calls = serve({ "/api/accounts": accounts, "/api/ask/access": answer });
    show(<AskPage />, "/ask?who=noor&in=q&at=soon");
    expect(await screen.findByText("The date can't be read")).toBeDefined();
    expect(calls.some((it) => it.path === "/api/ask/access")).toBe(false);
  });
});

describe("How do they differ", () => {
  const side = (kind: string, key: string, name: string): Schemas["DifferenceSide"] => ({
    kind,
    key,
    name,
    at: answer.at,
    revision: 1,
    figure: figure(4),
  });
  const line = {
    account: "q",
    accountName: "Quillhaven",
    permission: "order.approve",
    permissionName: "Approve orders",
    accessClass: "administer",
    risk: "high",
    gained: 0,
    lost: 62,
    sample: "order-1",
  };
  const difference: Schemas["DifferenceAnswer"] = {
    one: side("person", "odile", "Odile Farrow"),
    other: side("role", "registrar", "Registrar"),
    gained: 0,
    lost: 62,
    more: figure(0),
    less: figure(4),
    areas: [
      {
        key: "loans",
        name: "Purchasing",
        account: "q",
        accountName: "Quillhaven",
        gained: 0,
        lost: 62,
      },
    ],
    lines: [line],
  };

  it("outlines what only one side reaches, and names the areas", async () => {
    serve({ "/api/accounts": accounts, "/api/ask/difference": difference });
    const { container } = show(<ComparePage />, "/ask/differ?one=odile&other=role:registrar&in=q");
    expect(
      await screen.findByText("Only Odile Farrow: 62 rights. Only Registrar: 0 rights."),
    ).toBeDefined();
    const figures = container.querySelectorAll("figure");
    expect(figures[0]?.querySelectorAll("[data-edge=raised]")).toHaveLength(1);
    expect(figures[1]?.querySelectorAll("[data-edge=raised]")).toHaveLength(0);
    const row = screen.getByRole("row", { name: /Purchasing/ });
    expect(within(row).getByText("62")).toBeDefined();
  });

  it("dims the other areas while one is pointed at", async () => {
    const two = figure(4);
    two.sectors.push(...figure(4).sectors.map((it) => ({ ...it, key: "rooms", name: "Rooms" })));
    serve({
      "/api/accounts": accounts,
      "/api/ask/difference": { ...difference, one: { ...difference.one, figure: two } },
    });
    const { container } = show(<ComparePage />, "/ask/differ?one=odile&other=role:r");
    const row = await screen.findByRole("row", { name: /Purchasing/ });
    expect(container.querySelectorAll("[class*=dim]")).toHaveLength(0);
    await userEvent.hover(row);
    expect(container.querySelectorAll("[class*=dim]")).toHaveLength(1);
    await userEvent.unhover(row);
    expect(container.querySelectorAll("[class*=dim]")).toHaveLength(0);
  });

  it("opens the routes of the person, also where only the role has it", async () => {
    const routes = {
      verdict: "none",
      principal: { key: "odile", name: "Odile Farrow" },
      permission: { key: "order.approve", name: "Approve orders" },
      resource: { key: "order-1", name: "Order 1" },
      live: [],
      near: [],
      moreNear: 0,
    };
    const calls = serve({
      "/api/accounts": accounts,
      "/api/ask/difference": { ...difference, lines: [{ ...line, gained: 62, lost: 0 }] },
      "/api/ask/routes": routes,
    });
    show(<ComparePage />, "/ask/differ?one=odile&other=role:registrar");
    await userEvent.click(await screen.findByRole("button", { name: /only Registrar on 62/ }));
    expect(await screen.findByText(/No assignment to them/)).toBeDefined();
    expect(calls.find((it) => it.path === "/api/ask/routes")?.query.principal).toBe("odile");
  });

  it("opens no routes where neither side is a person", async () => {
    serve({
      "/api/accounts": accounts,
      "/api/ask/difference": { ...difference, one: side("role", "a", "A") },
    });
    show(<ComparePage />, "/ask/differ?one=role:a&other=role:registrar&in=q");
    const button = await screen.findByRole<HTMLButtonElement>("button", { name: /Approve orders/ });
    expect(button.disabled).toBe(true);
  });

  it("offers colleagues once there is somebody to have them", async () => {
    serve({ "/api/accounts": accounts, "/api/ask/difference": difference });
    show(<ComparePage />, "/ask/differ?one=odile");
    await userEvent.click(await screen.findByText("someone"));
    await userEvent.click(await screen.findByText("What their colleagues have in common"));
    expect(screen.getByLabelText("address").textContent).toContain("other=colleagues:odile");
  });
});

describe("Who can", () => {
  const holder = {
    key: "odile",
    name: "Odile Farrow",
    kind: "person",
    title: "Registrar",
    account: "Quillhaven",
    rights: 1,
  };
  const can: Schemas["WhoAnswer"] = {
    what: "Draft loans",
    where: "Loan 101",
    at: answer.at,
    secondFactor: true,
    pairs: 1,
    anonymous: false,
    allowed: [holder],
    blocked: [],
    denied: [],
    delegates: [],
    could: [],
    routes: [
      {
        subject: "Registrars",
        source: "q-registrars",
        said: "Registrar on Loans desk (tree of Loans desk)",
        people: ["odile"],
      },
    ],
    elsewhere: false,
  };
  const search = (state: string): Schemas["Job"] => ({
    id: "s1",
    kind: "escalation-search",
    title: "Who could get Draft loans: Loan 101",
    details: { permission: "loan.draft", resource: "q-loan-101", changes: 1 },
    state: state as "done",
    done: 40,
    total: 100,
    begun: "2026-11-29T08:00:00Z",
    answered: state === "done",
    bytes: 0,
    ...(state === "done" && { ended: "2026-11-29T08:01:00Z" }),
  });
  const escalators: Schemas["EscalatorsAnswer"] = {
    what: "Draft loans",
    where: "Loan 101",
    people: [
      {
        key: "marten",
        name: "Marten Holloway",
        account: "Larkmoor",
        path: {
          approvals: 1,
          steps: [
            {
              kind: "change",
              said: ["Marten Holloway joins Registrars"],
              uses: [],
              approval: ["widens"],
              approvers: ["Ilse Varga"],
              moreApprovers: false,
            },
          ],
        },
      },
    ],
    looked: 9,
    able: 9,
    whole: true,
    changes: 1,
    hidden: false,
  };

  it("tells people one by one or by route, and who could give it to themselves", async () => {
    const calls = serve({
      "/api/accounts": accounts,
      "/api/ask/who": can,
      "/api/jobs": { jobs: [] },
      "/api/jobs/:id": search("done"),
      "POST /api/ask/escalation/everyone": search("waiting"),
      "/api/ask/escalation/everyone/:job": escalators,
    });
    show(<WhoPage />, "/ask/who?permission=loan.draft&on=q-loan-101");
    expect(await screen.findByText("1 principal can.")).toBeDefined();
    expect(screen.getByRole("row", { name: /Odile Farrow/ })).toBeDefined();
    await userEvent.click(screen.getByText("By route"));
    expect(screen.queryByRole("row", { name: /Odile Farrow/ })).toBeNull();
    expect(screen.getByText("Registrar on Loans desk (tree of Loans desk)")).toBeDefined();
    expect(calls.some((it) => it.path.endsWith("everyone"))).toBe(false);
    await userEvent.click(await screen.findByRole("button", { name: "Search everyone" }));
    await waitFor(() =>
      expect(calls.find((it) => it.path.endsWith("everyone"))?.body).toMatchObject({ changes: 1 }),
    );
  });

  it("finds again what was searched before, and what still runs can be cancelled", async () => {
    const calls = serve({
      "/api/accounts": accounts,
      "/api/ask/who": can,
      "/api/jobs": { jobs: [search("done")] },
      "/api/jobs/:id": search("done"),
      "/api/ask/escalation/everyone/:job": escalators,
    });
    show(<WhoPage />, "/ask/who?permission=loan.draft&on=q-loan-101");
    expect(
      await screen.findByText(/Marten Holloway, Larkmoor: Marten Holloway joins/),
    ).toBeDefined();
    expect(screen.getByText(/Searched on 29 Nov 2026/)).toBeDefined();
    expect(calls.filter((it) => it.method === "POST")).toHaveLength(0);
  });

  it("shows how far a search is, and cancels it", async () => {
    const calls = serve({
      "/api/accounts": accounts,
      "/api/ask/who": can,
      "/api/jobs": { jobs: [search("running")] },
      "/api/jobs/:id": search("running"),
      "DELETE /api/jobs/:id": {},
    });
    show(<WhoPage />, "/ask/who?permission=loan.draft&on=q-loan-101");
    const bar = await screen.findByRole("progressbar");
    expect(bar.getAttribute("aria-valuenow")).toBe("40");
    await userEvent.click(screen.getByRole("button", { name: /^Cancel: Who could get/ }));
    await waitFor(() => expect(calls.some((it) => it.method === "DELETE")).toBe(true));
  });

  it("says that nobody can, or that it is no action there", async () => {
    serve({
      "/api/accounts": accounts,
      "/api/ask/who": { ...can, pairs: 0, allowed: [], routes: [] },
      "/api/jobs": { jobs: [] },
    });
    show(<WhoPage />, "/ask/who?permission=loan.draft&on=q");
    expect(await screen.findByText(/does not apply there/)).toBeDefined();
  });

  it("spells out that anybody can without signing in", async () => {
    serve({
      "/api/accounts": accounts,
      "/api/ask/who": { ...can, anonymous: true, elsewhere: true },
      "/api/jobs": { jobs: [] },
    });
    show(<WhoPage />, "/ask/who?permission=loan.draft&on=q-loan-101");
    const said = await screen.findByText(/1 principal can/);
    expect(said.textContent).toContain("Anyone can, even without signing in.");
    expect(said.textContent).toContain("People in accounts you can't see can, too.");
  });
});

describe("Why, why not", () => {
  it("is a sentence with the names, and opens the routes", async () => {
    const calls = serve({
      "/api/ask/routes": {
        verdict: "denied",
        principal: { key: "noor", name: "Noor Haddad" },
        permission: { key: "object.edit", name: "Edit objects" },
        resource: { key: "o-1", name: "Figurehead" },
        live: [],
        near: [],
        moreNear: 0,
      },
    });
    show(<WhyPage />, "/ask/why?who=noor&permission=object.edit&on=o-1&factor=1");
    expect(await screen.findByText("Noor Haddad")).toBeDefined();
    expect(screen.getByText("Figurehead")).toBeDefined();
    expect(screen.getByText(/Edit objects · on Figurehead · denied/)).toBeDefined();
    expect(calls[0]?.query).toMatchObject({ principal: "noor", secondFactor: "true" });
    expect(calls[0]?.query.on).toBeUndefined();
  });

  it("asks nothing before it is whole", () => {
    const calls = serve({});
    show(<WhyPage />, "/ask/why?who=noor");
    expect(screen.getByText(/Choose a permission and a resource/)).toBeDefined();
    expect(calls).toHaveLength(0);
  });
});

describe("How could they get it", () => {
  it("tells each link, by which right, and who would have to approve", async () => {
    serve({
      "/api/ask/escalation": {
        held: false,
        name: "Marten Holloway",
        what: "Approve loans",
        where: "Loan 103",
        paths: [
          {
            approvals: 1,
            steps: [
              {
                kind: "change",
                said: ["Marten Holloway joins Registrars"],
                uses: [
                  {
                    permission: "mandala.groups.manage",
                    permissionName: "Manage groups",
                    resource: "group:r",
                    place: "Registrars",
                  },
                ],
                approval: ["widens"],
                approvers: ["Ilse Varga"],
                moreApprovers: true,
              },
              {
                kind: "act-for",
                said: ["They act for Petra Lowe"],
                uses: [],
                approval: [],
                approvers: [],
                moreApprovers: false,
              },
            ],
          },
        ],
        changes: 3,
        whole: false,
        hidden: true,
      },
    });
    show(<EscalationPage />, "/ask/escalation?who=marten&permission=loan.approve&on=o-loan-103");
    const said = await screen.findByText(/shortest path/);
    expect(said.textContent).toContain("1 shortest path, of 1 change each.");
    expect(said.textContent).toContain("too many paths to search");
    expect(said.textContent).toContain("Other paths use things you can't see.");
    expect(screen.getByText(/“Manage groups” on Registrars/)).toBeDefined();
    expect(
      screen.getByText(
        /because it widens its author’s own access. Can approve: Ilse Varga and others/,
      ),
    ).toBeDefined();
  });

  it("says that there is nothing to come to, and that there is no way", async () => {
    const none = {
      held: true,
      name: "Noor",
      what: "Approve loans",
      where: "Loan 103",
      paths: [],
      changes: 3,
      whole: true,
      hidden: false,
    };
    serve({ "/api/ask/escalation": none });
    const first = show(<EscalationPage />, "/ask/escalation?who=noor&permission=loan.approve&on=l");
    expect(await screen.findByText(/They have this access now/)).toBeDefined();
    first.unmount();
    serve({ "/api/ask/escalation": { ...none, held: false } });
    show(<EscalationPage />, "/ask/escalation?who=noor&permission=loan.approve&on=l");
    expect(
      await screen.findByText(/can't get it with their own rights in up to 3 changes/),
    ).toBeDefined();
  });

  it("waits to be told what and where", () => {
    const calls = serve({});
    show(<EscalationPage />, "/ask/escalation?who=noor");
    expect(screen.getByText(/Choose a permission and a resource/)).toBeDefined();
    expect(calls).toHaveLength(0);
  });
});
