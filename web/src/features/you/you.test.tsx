import { screen } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { WhoContext } from "@/entities/session";
import { person, Refusal, serve, show } from "@/shared/testing/served";
import { YouPage } from "./pages/YouPage";

const cell = {
  permission: "loan.draft",
  applicable: 4,
  allowed: 4,
  blocked: 0,
  denied: 0,
  sample: "l1",
};
const access = {
  principal: { key: "ilse", name: "Ilse Varga" },
  at: "2026-11-28T09:00:00Z",
  figure: { rights: 1204, sectors: [] },
  permissions: [
    { key: "loan.draft", name: "Draft loans", accessClass: "change", risk: "moderate" },
  ],
  regions: [
    {
      shape: "tree",
      resource: "desk",
      name: "Loans desk",
      account: "q",
      note: "",
      size: 4,
      door: false,
      sealed: false,
      members: [],
      cells: [cell],
      below: [],
      more: false,
    },
  ],
};

function assignment(key: string, more: object) {
  return {
    key,
    givesName: key,
    subjectName: "Registrars",
    where: "everything in Quillhaven",
    denies: false,
    justInTime: false,
    ...more,
  };
}

function showYou(more: object = {}, who = person()) {
  const soon = new Date(Date.now() + 5 * 86_400_000).toISOString();
  serve({
    "/api/ask/access": access,
    "/api/rights/people/:key": {
      assignments: [
        assignment("Registrar", { until: soon }),
        assignment("Vault", { justInTime: true, until: "2099-01-05T00:00:00Z" }),
        assignment("Pay", { denies: true }),
      ],
      groups: [
        { key: "a", name: "Registrars" },
        { key: "b", name: "Staff" },
      ],
      ...more,
    },
  });
  show(
    <WhoContext value={who}>
      <YouPage />
    </WhoContext>,
    "/you",
  );
}

describe("one's own page", () => {
  it("says what one can do, through what, and what ends soon", async () => {
    showYou();
    expect(await screen.findByText("Draft loans")).toBeDefined();
    expect(screen.getByText(/1,204 rights · signed in with a second factor/)).toBeDefined();
    expect(screen.getByText("You are in 2 groups: Registrars and Staff.")).toBeDefined();
    expect(screen.getAllByText("Registrar")).toHaveLength(2); // once more among what ends
    expect(screen.getByText("Vault").parentElement?.textContent).toContain(
      "until 4 Jan 2099, once activated",
    );
    expect(screen.getByText("Pay").parentElement?.textContent).toContain("(denied)");
  });

  it("says what a missing second factor means", async () => {
    showYou({}, person({ secondFactor: false }));
    expect(await screen.findByText(/so what requires it is not available now/)).toBeDefined();
  });

  it("says where there is nothing, and what to do", async () => {
    serve({
      "/api/ask/access": { ...access, regions: [] },
      "/api/rights/people/:key": { assignments: [], groups: [] },
    });
    show(
      <WhoContext value={person({ enrolled: false, secondFactor: false })}>
        <YouPage />
      </WhoContext>,
      "/you",
    );
    expect(await screen.findByText(/You have no access yet. Ask your manager/)).toBeDefined();
    expect(screen.getByText("Nothing is assigned to you.")).toBeDefined();
    expect(screen.getByText(/no second factor enrolled/)).toBeDefined();
  });

  it("shows a refusal with what to do", async () => {
    serve({
      "/api/ask/access": new Refusal(429, { title: "Too many calls", detail: "Wait for them." }),
      "/api/rights/people/:key": { assignments: [], groups: [] },
    });
    show(
      <WhoContext value={person()}>
        <YouPage />
      </WhoContext>,
      "/you",
    );
    expect(await screen.findByText("Wait for them.")).toBeDefined();
  });
});
