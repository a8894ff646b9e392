import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";
import { ACCOUNTS, Refusal, serve, show } from "@/shared/testing/served";
import { WatchRulePage } from "./pages/WatchRulePage";
import { WatchRulesPage } from "./pages/WatchRulesPage";

const rule = { title: "Away", what: "persons", account: "q", warnAfter: 76, after: 90, most: 25 };

const kept = {
  number: 3,
  rule,
  accountName: "Quillhaven",
  ownerName: "Ilse Varga",
  since: "2026-11-01T00:00:00Z",
  heldUp: "It would act on 40 at once, and may on 25.",
  done: [
    { at: "2026-11-20T08:00:00Z", act: "acted", people: 14, revision: 51 },
    { at: "2026-11-06T08:00:00Z", act: "warned", people: 15 },
  ],
};

const preview = {
  acts: 14,
  warns: 1,
  waits: 0,
  first: [
    {
      key: "ada",
      name: "Ada Finch",
      accountName: "Quillhaven",
      since: "2026-08-01T00:00:00Z",
      what: "acts",
    },
  ],
};

const managed = {
  ...ACCOUNTS,
  accounts: ACCOUNTS.accounts.map((it) => ({ ...it, may: ["mandala.people.manage"] })),
};

function served(more: object = {}) {
  return serve({
    "/api/accounts": managed,
    "/api/things/:kind": { things: [], total: 0 },
    "/api/watch-rules": { rules: [kept] },
    "POST /api/watch-rules/preview": preview,
    ...more,
  });
}

function page() {
  return (
    <Routes>
      <Route path="/watch-rules" element={<WatchRulesPage />} />
      <Route path="/watch-rules/:rule" element={<WatchRulePage />} />
    </Routes>
  );
}

describe("the rules that watch", () => {
  it("are listed with what they say, did, and wait for", async () => {
    served();
    show(page(), "/watch-rules");
    expect(await screen.findByRole("link", { name: "Away" })).toBeDefined();
    expect(
      screen.getByText("people not seen for 90 days are suspended, warned after 76 days"),
    ).toBeDefined();
    expect(screen.getByText(/It would act on 40 at once/)).toBeDefined();
    expect(screen.getByText(/acted on 14 people on 20 Nov 2026/)).toBeDefined();
  });

  it("are not shown to whoever may not manage people", async () => {
    const none = ACCOUNTS.accounts.map((it) => ({ ...it, may: [] }));
    served({ "/api/accounts": { ...ACCOUNTS, accounts: none } });
    show(page(), "/watch-rules");
    expect(await screen.findByText("You can't see rules")).toBeDefined();
  });

  it("say what they would do today, and change with each word", async () => {
    const calls = served({ "POST /api/watch-rules": kept });
    show(page(), "/watch-rules/new");
    expect(
      await screen.findByText("It would warn 1 person and act on 14 people today."),
    ).toBeDefined();
    expect(screen.getByRole("link", { name: "Ada Finch" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "do not warn" }));
    expect(await screen.findByText("It would act on 14 people today.")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Who: people" }));
    await userEvent.click(await screen.findByText("services"));
    expect(await screen.findByText("It would report 1 service today.")).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Make rule" }));
    await waitFor(() => {
      const made = calls.find((it) => it.path === "/api/watch-rules" && it.method === "POST");
      expect(made?.body).toMatchObject({ what: "services", after: 90, most: 25 });
      expect(made?.body).not.toHaveProperty("warnAfter");
    });
  });

  it("lead to the revision in which what they did can be taken back", async () => {
    const calls = served({ "POST /api/watch-rules/:rule/look": kept });
    show(page(), "/watch-rules/3");
    const link = await screen.findByRole("link", { name: "revision 51" });
    expect(link.getAttribute("href")).toBe("/trail?revision=51");
    await userEvent.click(screen.getByRole("button", { name: "Look now" }));
    await waitFor(() =>
      expect(calls.some((it) => it.path === "/api/watch-rules/3/look")).toBe(true),
    );
  });

  it("show why they are refused", async () => {
    served({
      "POST /api/watch-rules/preview": new Refusal(400, {
        title: "The warning comes too late",
        detail: "Warn after fewer than 90 days.",
      }),
    });
    show(page(), "/watch-rules/new");
    expect(await screen.findByText("Warn after fewer than 90 days.")).toBeDefined();
  });
});
