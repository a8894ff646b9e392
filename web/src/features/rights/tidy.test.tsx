import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import Tidy from "./components/Tidy";
import { chosenAfter, withNeeds, withoutUnmet, type Tidying, type TidyProposal } from "./tidy";

function proposal(said: string, more: Partial<TidyProposal> = {}): TidyProposal {
  return {
    reason: "included",
    said: [said],
    why: "the rest already includes it",
    account: "Brack Hall",
    fewer: 1,
    needs: [],
    ...more,
  };
}

const STEPS = [
  proposal("View objects is removed from Valuing"),
  proposal("Records cataloguer is removed", {
    reason: "twin",
    why: "role “Cataloguer” gives exactly the same",
    fewer: 3,
  }),
  proposal("View objects is removed again", { needs: [0] }),
  proposal("The last goes", { needs: [2] }),
];

const JOB = {
  id: "j1",
  kind: "tidy",
  title: "Tidy rights",
  details: { roles: false },
  state: "done",
  done: 1,
  begun: "2026-11-30T09:00:00Z",
  ended: "2026-11-30T09:00:05Z",
  answered: true,
  bytes: 0,
};

function found(more: Partial<Tidying> = {}) {
  return {
    "/api/jobs": { jobs: [JOB] },
    "/api/jobs/:id": JOB,
    "/api/views": { views: [] },
    "/api/tidy/:job": {
      revision: 7,
      at: "2026-11-30T09:00:00Z",
      part: false,
      changes: true,
      steps: STEPS,
      ...more,
    },
  };
}

describe("a choice of proposals", () => {
  it("brings what it needs, however far", () => {
    expect(withNeeds(STEPS, [3])).toEqual([0, 2, 3]);
    expect(withNeeds(STEPS, [1])).toEqual([1]);
  });

  it("loses what needed one that is taken out", () => {
    expect(withoutUnmet(STEPS, [1, 2, 3])).toEqual([1]);
    expect(chosenAfter(STEPS, [0, 2, 3], [2, 3])).toEqual([]);
    expect(chosenAfter(STEPS, [], [3])).toEqual([0, 2, 3]);
  });
});

describe("tidying rights", () => {
  it("is begun, with roles and groups where wanted", async () => {
    const calls = serve({ "/api/jobs": { jobs: [] }, "POST /api/tidy": JOB, "/api/jobs/:id": JOB });
    show(<Tidy />);
    await userEvent.click(await screen.findByRole("checkbox", { name: /Also combine/ }));
    await userEvent.click(screen.getByRole("button", { name: "Look for proposals" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({ roles: true }),
    );
  });

  it("adds all proposals to a draft", async () => {
    const calls = serve({ ...found(), "POST /api/tidy/:job/draft": { draft: "d1", changes: 5 } });
    show(<Tidy />);
    expect(await screen.findByText(/6 statements fewer; nobody gains or loses/)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Add all 4 to a new draft" }));
    const link = await screen.findByRole("link", { name: "Open the draft" });
    expect(link.getAttribute("href")).toBe("/drafts/d1");
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({ steps: [0, 1, 2, 3] });
  });

  it("adds the selected ones, with what they need", async () => {
    const calls = serve({ ...found(), "POST /api/tidy/:job/draft": { draft: "d1", changes: 2 } });
    show(<Tidy />);
    await userEvent.click(
      await screen.findByRole("checkbox", { name: "Select View objects is removed again" }),
    );
    await userEvent.click(screen.getByRole("button", { name: "Add 2 proposals to a new draft" }));
    expect(await screen.findByText(/2 changes are in a new draft/)).toBeDefined();
    expect(calls.find((it) => it.method === "POST")?.body).toEqual({ steps: [0, 2] });
  });

  it("narrows by reason and keeps what is selected", async () => {
    serve(found());
    show(<Tidy />);
    await userEvent.click(
      await screen.findByRole("checkbox", { name: "Select Records cataloguer is removed" }),
    );
    await userEvent.click(screen.getByRole("combobox", { name: "Reason" }));
    await userEvent.click(await screen.findByTitle("Already included (3)"));
    const table = screen.getByRole("table");
    await waitFor(() => expect(within(table).queryByText(/Records cataloguer/)).toBeNull());
    expect(screen.getByRole("button", { name: "Add 1 proposal to a new draft" })).toBeDefined();
  });

  it("can be read by whoever may not change anything", async () => {
    serve(found({ changes: false, part: true }));
    show(<Tidy />);
    expect(await screen.findByText(/You can read these proposals/)).toBeDefined();
    expect(screen.queryByRole("checkbox", { name: /Select/ })).toBeNull();
    expect(screen.queryByRole("button", { name: /to a new draft/ })).toBeNull();
    expect(screen.getByText("Only what you can read is listed.")).toBeDefined();
  });

  it("says that nothing can go", async () => {
    serve(found({ steps: [] }));
    show(<Tidy />);
    expect(await screen.findByText("Nothing can go")).toBeDefined();
  });

  it("says why a draft could not be made", async () => {
    serve({
      ...found(),
      "POST /api/tidy/:job/draft": new Refusal(409, {
        title: "The model has changed since",
        detail: "Look for proposals again.",
      }),
    });
    show(<Tidy />);
    await userEvent.click(await screen.findByRole("button", { name: "Add all 4 to a new draft" }));
    expect(await screen.findByText(/Look for proposals again/)).toBeDefined();
  });
});
