import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactElement } from "react";
import { describe, expect, it } from "vitest";
import type { ImpactView as Impact } from "@/entities/draft/queries";
import { WhoContext } from "@/entities/session";
import { person, Refusal, serve, show } from "@/shared/testing/served";
import { draft } from "../testing";
import { keptInWords, obstaclesOf } from "../model";
import { ApplyPanel } from "./ApplyPanel";
import { Changes } from "./Changes";
import { Clashes } from "./Clashes";
import { Explanation } from "./Explanation";
import { Discussion } from "./Discussion";
import { ImpactPanel } from "./ImpactPanel";

function impact(more: object = {}): Impact {
  return {
    state: "done",
    summary: "1 person gains 2 rights.",
    begin: [],
    end: [],
    denies: [],
    people: [],
    more: 0,
    unchanged: 0,
    permissions: [],
    areas: [],
    elsewhere: false,
    done: 0,
    of: 0,
    ...more,
  } as unknown as Impact;
}

function page(element: ReactElement, who = person(), demo = false) {
  serve({ "/api/session": { demo, who }, "/api/demo/people": demoPeople });
  return show(<WhoContext value={who}>{element}</WhoContext>, "/drafts/d1");
}

const demoPeople = [{ key: "ilse", name: "Ilse Varga", password: "larkmoor-demo", code: "246810" }];

describe("applying", () => {
  it("shows the current code in the demo, and fills it in", async () => {
    serve({});
    page(<ApplyPanel draft={draft()} />, person(), true);
    await userEvent.click(await screen.findByRole("button", { name: "Use it" }));
    expect(screen.getByLabelText<HTMLInputElement>("Code of your second factor").value).toBe(
      "246810",
    );
  });

  it("asks for the code, and opens the revision that was made", async () => {
    const calls = serve({ "POST /api/drafts/:id/apply": { revision: 39 } });
    page(<ApplyPanel draft={draft()} />);
    await userEvent.click(screen.getByRole("button", { name: "Apply" }));
    expect(await screen.findByText("Enter it to apply the draft.")).toBeDefined();
    expect(calls).toHaveLength(0);
    await userEvent.type(screen.getByLabelText("Code of your second factor"), " 123456 ");
    await userEvent.click(screen.getByRole("button", { name: "Apply" }));
    await waitFor(() =>
      expect(screen.getByLabelText("address").textContent).toBe("/trail?revision=39"),
    );
    expect(calls[0]?.body).toEqual({ content: "abcdef0123456789", proof: "123456" });
  });

  it("sets a date instead, with the same proof", async () => {
    const calls = serve({ "PUT /api/drafts/:id/date": {} });
    page(<ApplyPanel draft={draft()} />);
    await userEvent.click(screen.getByText("At a date"));
    const set = screen.getByRole("button", { name: "Set date" });
    expect(set).toHaveProperty("disabled", true);
    await userEvent.type(await screen.findByLabelText("Date"), "24 Dec 2027{Enter}");
    await userEvent.type(screen.getByLabelText(/Code of your second factor/), "123456");
    await userEvent.click(set);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")?.body).toMatchObject({ proof: "123456" }),
    );
    expect((calls[0]?.body as { at: string }).at).toContain("2027-12-2");
  });

  it("says when it is applied by itself, and takes the date back", async () => {
    const calls = serve({ "DELETE /api/drafts/:id/date": {} });
    page(<ApplyPanel draft={draft({ due: "2026-12-24T06:00:00Z" })} />);
    expect(screen.getByText(/applied on 24 Dec 2026, 06:00 UTC/)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Remove date" }));
    await waitFor(() => expect(calls.some((it) => it.method === "DELETE")).toBe(true));
  });

  it("says why it was not applied at its date", () => {
    page(<ApplyPanel draft={draft({ dueFault: "You need “Assign access”. Ask an owner." })} />);
    expect(screen.getByText("Not applied at its date")).toBeDefined();
    expect(screen.getByText(/Ask an owner/)).toBeDefined();
  });

  it("asks for the password of whoever has no second factor", () => {
    serve({});
    page(<ApplyPanel draft={draft()} />, person({ enrolled: false }));
    expect(screen.getByLabelText("Your password").getAttribute("type")).toBe("password");
  });

  it("shows why it was refused, and keeps the form", async () => {
    serve({
      "POST /api/drafts/:id/apply": new Refusal(409, {
        title: "Somebody else changed this too",
        detail: "Open the draft and choose.",
      }),
    });
    page(<ApplyPanel draft={draft()} />);
    await userEvent.type(screen.getByLabelText("Code of your second factor"), "123456");
    await userEvent.click(screen.getByRole("button", { name: "Apply" }));
    expect(await screen.findByText("Open the draft and choose.")).toBeDefined();
    expect(screen.getByDisplayValue("123456")).toBeDefined();
  });

  it("names what is in the way, each with the next step", () => {
    serve({});
    page(<ApplyPanel draft={draft({ changes: [] })} />);
    expect(screen.getByText(/This draft is empty/)).toBeDefined();
    expect(screen.queryByRole("button", { name: "Apply" })).toBeNull();
    const all = draft({
      clashes: [{}],
      faults: [{}],
      refusals: ["no"],
      judging: true,
      reasons: ["It grants a critical permission"],
    });
    expect(obstaclesOf(all)).toHaveLength(5);
    expect(obstaclesOf(draft())).toEqual([]);
  });

  it("says who can approve, and which approvals are void", () => {
    serve({});
    const waiting = {
      reasons: ["It grants a critical permission"],
      approvals: [{ who: { key: "b", name: "Bas Quill" }, counts: false }],
      approvers: [
        { key: "m", name: "Marten Holloway" },
        { key: "p", name: "Petra Lowe" },
      ],
    };
    page(<ApplyPanel draft={draft(waiting)} />);
    expect(screen.getByText(/That approval is void/)).toBeDefined();
    expect(screen.getByRole("combobox", { name: "Who can approve it" })).toBeDefined();
    page(<ApplyPanel draft={draft({ ...waiting, approvers: [] })} />);
    expect(screen.getByText(/No one can approve all of it/)).toBeDefined();
  });

  it("sends the draft to those who are chosen", async () => {
    const calls = serve({ "POST /api/drafts/:id/requests": {} });
    const waiting = {
      reasons: ["It grants a critical permission"],
      approvers: [
        { key: "m", name: "Marten Holloway" },
        { key: "p", name: "Petra Lowe" },
      ],
    };
    page(<ApplyPanel draft={draft(waiting)} />);
    const send = screen.getByRole("button", { name: "Send for approval" });
    expect(send).toHaveProperty("disabled", true);
    await userEvent.click(screen.getByRole("combobox", { name: "Who can approve it" }));
    await userEvent.click(await screen.findByTitle("Petra Lowe"));
    await userEvent.click(send);
    await waitFor(() => expect(calls[0]?.body).toEqual({ approvers: ["p"] }));
  });

  it("shows who was asked and what they answered, each with the next act", async () => {
    const calls = serve({
      "POST /api/drafts/:id/requests/:person/reminder": {},
      "DELETE /api/drafts/:id/requests/:person": {},
      "POST /api/drafts/:id/requests": {},
    });
    const asked = { askedAt: "2026-11-27T09:00:00Z" };
    const requests = [
      { ...asked, who: { key: "m", name: "Marten Holloway" }, state: "waiting" },
      {
        ...asked,
        who: { key: "p", name: "Petra Lowe" },
        state: "outdated",
        answeredAt: "2026-11-27T10:00:00Z",
        because: "Too wide",
      },
      {
        ...asked,
        who: { key: "b", name: "Bas Quill" },
        state: "declined",
        answeredAt: "2026-11-27T10:00:00Z",
        because: "Not him",
      },
    ];
    page(<ApplyPanel draft={draft({ requests, reasons: ["It grants a critical permission"] })} />);
    expect(screen.getByText(/Bas Quill declined it .*: Not him/)).toBeDefined();
    expect(screen.getByText(/Petra Lowe declined an earlier version .*: Too wide/)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Remind Marten Holloway" }));
    await waitFor(() => expect(calls[0]?.path).toContain("/requests/m/reminder"));
    await userEvent.click(screen.getByRole("button", { name: "Withdraw from Marten Holloway" }));
    await waitFor(() => expect(calls.some((it) => it.method === "DELETE")).toBe(true));
    await userEvent.click(screen.getByRole("button", { name: "Send to Petra Lowe again" }));
    await waitFor(() => expect(calls.at(-1)?.body).toEqual({ approvers: ["p"] }));
  });

  it("lets a second person decline, with a reason", async () => {
    const calls = serve({ "POST /api/drafts/:id/decline": {} });
    page(<ApplyPanel draft={draft({ mine: false, mayApprove: true })} />);
    await userEvent.click(screen.getByRole("button", { name: "Decline" }));
    const dialog = within(await screen.findByRole("dialog"));
    await userEvent.click(dialog.getByRole("button", { name: "Decline" }));
    expect(await dialog.findByText("Enter a reason.")).toBeDefined();
    expect(calls).toHaveLength(0);
    await userEvent.type(dialog.getByLabelText("Tell Ilse Varga why"), "Too wide");
    await userEvent.click(dialog.getByRole("button", { name: "Decline" }));
    await waitFor(() =>
      expect(calls[0]?.body).toEqual({ content: "abcdef0123456789", reason: "Too wide" }),
    );
  });

  it("lets a second person approve exactly what they see", async () => {
    const calls = serve({ "POST /api/drafts/:id/approval": {} });
    page(<ApplyPanel draft={draft({ mine: false, mayApprove: true })} />);
    await userEvent.click(screen.getByRole("button", { name: "Approve this draft" }));
    await waitFor(() => expect(calls[0]?.body).toEqual({ content: "abcdef0123456789" }));
    expect(screen.queryByRole("button", { name: "Apply" })).toBeNull();
  });

  it("says what became of a draft that is closed", () => {
    serve({});
    const { unmount } = page(<ApplyPanel draft={draft({ state: "applied", appliedAs: 39 })} />);
    expect(screen.getByRole("link", { name: "revision 39" })).toBeDefined();
    unmount();
    page(<ApplyPanel draft={draft({ state: "discarded" })} />);
    expect(screen.getByText(/discarded on 28 Nov 2026.*can no longer be restored/)).toBeDefined();
  });

  it("restores a draft that was discarded lately", async () => {
    const calls = serve({ "PATCH /api/drafts/:id": {} });
    page(<ApplyPanel draft={draft({ state: "discarded", restorable: true })} />);
    await userEvent.click(screen.getByRole("button", { name: "Restore" }));
    await waitFor(() => expect(calls[0]?.body).toEqual({ state: "aside" }));
  });
});

describe("the explanation", () => {
  it("is kept when its field is left, and asked for by policy", async () => {
    const calls = serve({ "PATCH /api/drafts/:id": {} });
    const it = draft({ needs: { reason: true, reference: true }, reference: "LK-1" });
    page(<Explanation draft={it} readOnly={false} />);
    await userEvent.type(screen.getByLabelText("Reason"), " Night shift ");
    await userEvent.tab();
    await waitFor(() => expect(calls[0]?.body).toEqual({ reason: "Night shift" }));
    await userEvent.clear(screen.getByLabelText("Reference"));
    await userEvent.tab();
    await waitFor(() => expect(calls[1]?.body).toEqual({ reference: "" }));
    expect(obstaclesOf(it)).toEqual(["Add a reason above: the policy asks for one."]);
  });

  it("is read by others as it is", () => {
    serve({});
    page(<Explanation draft={draft({ reason: "Night shift" })} readOnly />);
    expect(screen.getByText("Night shift")).toBeDefined();
    expect(screen.queryByText("Reference")).toBeNull();
  });
});

describe("the impact", () => {
  it.each([
    ["faulty", /once you fix the errors/],
    ["hidden", /Only people who can read everything/],
    ["failed", /could not be computed/],
    ["cancelled", /Compute again/],
  ])("that is %s says so", async (state, words) => {
    serve({ "/api/drafts/:id/impact": impact({ state }) });
    page(<ImpactPanel draft={draft()} />);
    expect(await screen.findByText(words)).toBeDefined();
  });

  it("shows its progress, and can be cancelled", async () => {
    const calls = serve({
      "/api/drafts/:id/impact": impact({ state: "running", done: 40, of: 400 }),
      "DELETE /api/drafts/:id/impact": {},
    });
    page(<ImpactPanel draft={draft()} />);
    expect(await screen.findByText(/Computing the impact on 400 people: 40/)).toBeDefined();
    await userEvent.click(screen.getByText("Cancel"));
    await waitFor(() => expect(calls.some((it) => it.method === "DELETE")).toBe(true));
  });

  it("groups violations by rule, and opens a person to their rights", async () => {
    const finding = (said: string) => ({
      kind: "exclusion",
      key: "x",
      name: "Draft and pay",
      said,
    });
    serve({
      "/api/drafts/:id/impact": impact({
        begin: ["1", "2", "3", "4"].map(finding),
        end: [finding("Bas Quill no longer holds both sides")],
        people: [
          { key: "ada", name: "Ada Finch", author: true, gained: 2, lost: 0, lockedOut: false },
          { key: "bas", name: "Bas Quill", author: false, gained: 0, lost: 9, lockedOut: true },
        ],
        more: 3,
        elsewhere: true,
      }),
      "/api/drafts/:id/impact/:person": {
        person: { key: "ada", name: "Ada Finch" },
        lines: [],
        before: { rights: 1, sectors: [] },
        after: { rights: 3, sectors: [] },
      },
    });
    page(<ImpactPanel draft={draft()} />);
    expect(await screen.findByText("New violations")).toBeDefined();
    expect(screen.getByText(/1; 2; 3; and 1 more/)).toBeDefined();
    expect(screen.getByText("Resolved")).toBeDefined();
    expect(screen.getByText("loses all access")).toBeDefined();
    expect(screen.getByText("and 3 more people")).toBeDefined();
    expect(screen.getByText(/accounts you can't see/)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: /Ada Finch/ }));
    expect(await screen.findByText("after · 3 rights")).toBeDefined();
  });

  it("says who is touched and keeps the same access", () => {
    expect(keptInWords(impact())).toBe("");
    expect(keptInWords(impact({ unchanged: 1, gaining: 1, losing: 0 }))).toBe(
      "1 more person is affected and keeps the same access.",
    );
    expect(keptInWords(impact({ unchanged: 2, gaining: 0, losing: 0 }))).toBe(
      "2 people are affected and keep the same access.",
    );
    expect(
      keptInWords(impact({ unchanged: 5, gaining: 0, losing: 1, rerouted: 7, reroutedPeople: 2 })),
    ).toBe(
      "5 more people are affected and keep the same access; 7 rights of 2 people only change their route.",
    );
  });
});

describe("the changes", () => {
  it("are grouped by kind, with errors at the thing, and removable", async () => {
    const calls = serve({ "POST /api/drafts/:id/drop": {} });
    const faults = [
      { kind: "groups", key: "guards", what: "The group has no account", next: "Choose one" },
      { kind: "roles", key: "r", name: "Registrar", what: "The role is gone", next: "Remove it" },
    ];
    page(
      <Changes
        draft={draft({ faults, refusals: ["You need “Manage groups”"] })}
        readOnly={false}
      />,
    );
    expect(screen.getByText("The group has no account. Choose one.")).toBeDefined();
    expect(screen.getByText(/Registrar: The role is gone/)).toBeDefined();
    expect(screen.getByText("You need “Manage groups”")).toBeDefined();
    await userEvent.click(
      screen.getByRole("button", { name: "Remove from draft: Ada Finch joins Guards" }),
    );
    await waitFor(() => expect(calls[0]?.body).toEqual({ kind: "groups", key: "guards" }));
  });

  it("can't be removed by those who only read", () => {
    serve({});
    page(<Changes draft={draft()} readOnly />);
    expect(screen.queryByRole("button", { name: /Remove from draft/ })).toBeNull();
    expect(screen.getByRole("link", { name: "Open Guards" })).toBeDefined();
  });

  it("are none in an empty draft, which says how to fill it", () => {
    serve({});
    page(<Changes draft={draft({ changes: [] })} readOnly={false} />);
    expect(screen.getByText(/they take effect when you apply the draft/)).toBeDefined();
  });
});

it("conflicting changes are kept by choice, one by one", async () => {
  const calls = serve({ "POST /api/drafts/:id/rebase": {} });
  const clash = {
    kind: "groups",
    key: "g",
    name: "Keepers",
    fields: ["name"],
    mine: ["becomes “Keepers of loans”"],
    theirs: ["is “Loan keepers”"],
  };
  page(<Clashes draft={draft({ clashes: [clash] })} />);
  const go = screen.getByRole("button", { name: "Keep the chosen versions" });
  expect(go).toHaveProperty("disabled", true);
  await userEvent.click(screen.getByLabelText(/Keep the current one/));
  await userEvent.click(go);
  await waitFor(() =>
    expect(calls[0]?.body).toEqual({
      choices: [{ which: { kind: "groups", key: "g" }, mine: false }],
    }),
  );
});

it("a comment is added, and the field is empty again", async () => {
  const calls = serve({ "POST /api/drafts/:id/comments": {} });
  page(<Discussion draft={draft()} />);
  const field = screen.getByRole<HTMLTextAreaElement>("textbox", { name: "Comment" });
  await userEvent.type(field, "Looks right to me");
  await userEvent.click(screen.getByRole("button", { name: "Add comment" }));
  await waitFor(() => expect(calls[0]?.body).toEqual({ said: "Looks right to me" }));
  await waitFor(() => expect(field.value).toBe(""));
});
