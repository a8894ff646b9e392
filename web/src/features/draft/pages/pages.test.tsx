import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, person, Refusal, serve, show } from "@/shared/testing/served";
import { WhoContext } from "@/entities/session";
import { draft } from "../testing";
import { DraftPage } from "./DraftPage";
import { PrintPage } from "./PrintPage";

const impact = {
  state: "done",
  of: 3,
  looked: 3,
  summary: "1 person gains 2 rights.",
  begin: [{ kind: "holders", key: "r", name: "Two keepers", said: "Too few hold Key keeper" }],
  end: [{ kind: "holders", key: "s", name: "One clerk", said: "Too many held Clerk" }],
  denies: [],
  people: [{ key: "ada", name: "Ada Finch", gained: 2, lost: 0, rerouted: 0, critical: false }],
  more: 0,
  unchanged: 0,
  permissions: [],
  areas: [],
  elsewhere: false,
};

const lines = {
  lines: [
    { permissionName: "Unlock case", accountName: "Quillhaven", gained: 2, lost: 0 },
    { permissionName: "Read plan", accountName: "Fernwick", gained: 0, lost: 1 },
  ],
};

const common = {
  "/api/accounts": ACCOUNTS,
  "/api/drafts/:id/impact": impact,
  "/api/drafts/:id/impact/:principal": lines,
  "/api/drafts/:id": draft(),
};

function at(path: string, answers: object = {}) {
  const calls = serve({ ...common, ...answers });
  show(
    <WhoContext.Provider value={person()}>
      <Routes>
        <Route path="/drafts/:id" element={<DraftPage />} />
        <Route path="/drafts/:id/print" element={<PrintPage />} />
        <Route path="/drafts" element={<p>All drafts</p>} />
      </Routes>
    </WhoContext.Provider>,
    path,
  );
  return calls;
}

describe("a draft on paper", () => {
  it("has its changes, violations and each person's difference on one page", async () => {
    at("/drafts/d1/print");
    expect(await screen.findByRole("heading", { name: "Night shift" })).toBeDefined();
    expect(screen.getByText("by Ilse Varga, to revision 38, content abcdef012345")).toBeDefined();
    expect(screen.getByText("Ada Finch joins Guards.")).toBeDefined();
    expect(await screen.findByText("1 person gains 2 rights.")).toBeDefined();
    expect(screen.getByText("New violation: Two keepers. Too few hold Key keeper.")).toBeDefined();
    expect(screen.getByText("Resolved: One clerk. Too many held Clerk.")).toBeDefined();
    expect(
      await screen.findByText("Will be able to: Unlock case (2 in Quillhaven)."),
    ).toBeDefined();
    expect(screen.getByText("Will no longer be able to: Read plan (1 in Fernwick).")).toBeDefined();
  });

  it("lists at most forty people, and says how many more", async () => {
    const people = Array.from({ length: 43 }, (_, i) => ({ key: `p${i}`, name: `Person ${i}` }));
    at("/drafts/d1/print", { "/api/drafts/:id/impact": { ...impact, people } });
    expect(await screen.findByText("and 3 more people")).toBeDefined();
    expect(screen.queryByRole("heading", { name: "Person 40" })).toBeNull();
  });

  it.each([
    ["hidden", /Only people who can read everything/],
    ["faulty", /Fix them to see its impact/],
  ])("says why there is no impact: %s", async (state, said) => {
    at("/drafts/d1/print", { "/api/drafts/:id/impact": { ...impact, state } });
    expect(await screen.findByText(said)).toBeDefined();
  });

  it("names people whose access can't be asked about, without a difference", async () => {
    at("/drafts/d1/print", {
      "/api/drafts/:id/impact/:principal": new Refusal(404, { title: "No", detail: "No." }),
    });
    expect(await screen.findByText("You can't ask about their access.")).toBeDefined();
  });

  it("shows a refusal", async () => {
    at("/drafts/gone/print", {
      "/api/drafts/:id": new Refusal(404, { title: "No draft", detail: "There is no draft." }),
    });
    expect(await screen.findByText("There is no draft.")).toBeDefined();
  });
});

describe("the page of a draft", () => {
  it("tells whose it is, how large, and against which revision", async () => {
    at("/drafts/d1");
    expect(await screen.findByText(/1 change to revision 38/)).toBeDefined();
    expect(screen.getByText(/yours/)).toBeDefined();
    const panel = screen.getByRole("complementary", { name: "Impact" });
    expect(await within(panel).findByText(/1 person gains 2 rights/)).toBeDefined();
  });

  it("has no impact while it is empty", async () => {
    at("/drafts/d1", { "/api/drafts/:id": draft({ changes: [] }) });
    expect(await screen.findByText("An empty draft has no impact.")).toBeDefined();
  });

  it("of somebody else can be read only", async () => {
    at("/drafts/d1", { "/api/drafts/:id": draft({ mine: false, takesBack: 30 }) });
    expect(await screen.findByText(/by Ilse Varga/)).toBeDefined();
    expect(screen.getByText(/reverts revision 30/)).toBeDefined();
    expect(screen.queryByRole("button", { name: "Discard draft" })).toBeNull();
    expect(screen.queryByRole("button", { name: "Set aside" })).toBeNull();
  });

  it("is set aside, and opened again", async () => {
    const calls = at("/drafts/d1", { "PATCH /api/drafts/:id": draft({ state: "aside" }) });
    await userEvent.click(await screen.findByRole("button", { name: "Set aside" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PATCH")?.body).toEqual({ state: "aside" }),
    );
  });

  it("is discarded, and leads back to the list", async () => {
    const calls = at("/drafts/d1", { "PATCH /api/drafts/:id": draft({ state: "discarded" }) });
    await userEvent.click(await screen.findByRole("button", { name: "Discard draft" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PATCH")?.body).toEqual({ state: "discarded" }),
    );
    expect(await screen.findByText("All drafts")).toBeDefined();
    await userEvent.click(await screen.findByRole("button", { name: "Undo" }));
    await waitFor(() =>
      expect(calls.filter((it) => it.method === "PATCH").at(-1)?.body).toEqual({ state: "open" }),
    );
  });

  it("stays when the server refuses to discard it", async () => {
    at("/drafts/d1", {
      "PATCH /api/drafts/:id": new Refusal(409, { title: "Applied", detail: "It was applied." }),
    });
    await userEvent.click(await screen.findByRole("button", { name: "Discard draft" }));
    expect(await screen.findByText("It was applied.")).toBeDefined();
    expect(screen.getByRole("button", { name: "Discard draft" })).toBeDefined();
  });
});
