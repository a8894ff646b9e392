import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it, vi } from "vitest";
import type { AssignmentView } from "@/entities/thing/queries";
import { openDraft, Refusal, serve, show } from "@/shared/testing/served";
import { EndAssignment, othersInWords } from "./EndAssignment";

const own = {
  key: "a1",
  subject: "person:ada",
  subjectName: "Ada Finch",
  gives: "permission:loan.approve",
  givesName: "Approve loans",
  denies: true,
  where: "everything in Quillhaven",
  state: "in force",
  justInTime: false,
  crossesSeals: false,
  thing: {},
} as AssignmentView;

const ending = { own: 1, people: 0, rights: 0, elsewhere: false, leavable: false };
const ada = { ref: "person:ada", name: "Ada Finch" };

describe("whom an ending concerns", () => {
  it.each([
    [0, 0, false, "No one else that you can see would lose a right."],
    [1, 1, false, "1 other person would lose or gain 1 right."],
    [6, 18, false, "6 other people would lose or gain 18 rights."],
    [
      0,
      0,
      true,
      "No one else that you can see would lose a right. It also concerns people whom you can't see.",
    ],
  ])("is said for %i people, %i rights, elsewhere: %s", (people, rights, elsewhere, said) => {
    expect(othersInWords({ ...ending, people, rights, elsewhere })).toBe(said);
  });
});

describe("ending an assignment", () => {
  function opened(answer: object = ending, onClose = vi.fn()) {
    const calls = serve({
      "/api/rights/people/:key/ending": answer,
      "POST /api/drafts/open/edits": openDraft(1),
    });
    show(<EndAssignment assignment={own} person={ada} onClose={onClose} />);
    return { calls, onClose };
  }

  it("of one's own says what it ends, and that it denies", async () => {
    const { calls, onClose } = opened();
    expect(await screen.findByText(/This assignment is Ada Finch's own/)).toBeDefined();
    expect(screen.getByText(/Ada Finch loses 1 right\./)).toBeDefined();
    expect(screen.getByText(/It denies; ending it may give access back/)).toBeDefined();
    expect(screen.queryByRole("button", { name: /Remove Ada Finch from/ })).toBeNull();
    await userEvent.click(screen.getByRole("button", { name: "End the assignment" }));
    await waitFor(() => expect(onClose).toHaveBeenCalledOnce());
    expect(calls.find((it) => it.path.endsWith("/edits"))?.body).toEqual({
      edits: [{ kind: "assignments", key: "a1", remove: true }],
    });
  });

  it("tells no number of somebody who can't be asked about", async () => {
    opened({ ...ending, own: undefined });
    expect(await screen.findByText(/This assignment is Ada Finch's own/)).toBeDefined();
    expect(screen.queryByText(/loses/)).toBeNull();
  });

  it("waits until it is known what would end", async () => {
    opened(new Refusal(404, { title: "Not found", detail: "Reload the page." }));
    expect(await screen.findByText("Reload the page.")).toBeDefined();
    const button = screen.getByRole<HTMLButtonElement>("button", { name: "End the assignment" });
    expect(button.disabled).toBe(true);
  });

  it("changes nothing when it is cancelled", async () => {
    const { calls, onClose } = opened();
    await screen.findByText(/This assignment is Ada Finch's own/);
    await userEvent.click(screen.getByRole("button", { name: "Cancel" }));
    expect(onClose).toHaveBeenCalledOnce();
    expect(calls.some((it) => it.method === "POST")).toBe(false);
  });
});
