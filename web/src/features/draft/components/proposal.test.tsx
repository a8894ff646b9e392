import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { obstaclesOf } from "../model";
import { change, draft } from "../testing";
import { Proposal } from "./Proposal";

const refused = draft({
  changes: [{ ...change, refusals: ["To change the group Guards you need more."] }],
  appliers: [{ key: "marten", name: "Marten Holloway" }],
});

describe("a draft that its owner may not apply", () => {
  it("is proposed to somebody who may, chosen by name", async () => {
    const calls = serve({ "PATCH /api/drafts/:id": refused });
    show(<Proposal draft={refused} />);
    const propose = screen.getByRole("button", { name: "Propose" });
    expect(propose).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("combobox", { name: "Who can apply it" }));
    await userEvent.click(await screen.findByText("Marten Holloway"));
    await userEvent.click(propose);
    await waitFor(() => expect(calls[0]?.body).toEqual({ owner: "marten" }));
    expect(calls[0]?.path).toBe("/api/drafts/d1");
  });

  it("says why it was not taken", async () => {
    serve({
      "PATCH /api/drafts/:id": new Refusal(409, {
        title: "They have too many drafts",
        detail: "Choose somebody else.",
      }),
    });
    show(<Proposal draft={refused} />);
    await userEvent.click(screen.getByRole("combobox", { name: "Who can apply it" }));
    await userEvent.click(await screen.findByText("Marten Holloway"));
    await userEvent.click(screen.getByRole("button", { name: "Propose" }));
    expect(await screen.findByText("They have too many drafts")).toBeDefined();
  });

  it("has nobody to go to where nobody may make all of it", () => {
    show(<Proposal draft={draft({ ...refused, appliers: [] })} />);
    expect(screen.queryByRole("button", { name: "Propose" })).toBeNull();
    expect(obstaclesOf(draft({ ...refused, appliers: [] }))[0]).not.toContain("propose");
    expect(obstaclesOf(refused)[0]).toContain("propose the draft");
  });
});
