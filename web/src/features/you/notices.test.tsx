import { screen, waitFor, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { serve, show } from "@/shared/testing/served";
import { NoticesPage } from "./pages/NoticesPage";
import { WorkPage } from "./pages/WorkPage";

const notices = {
  unread: 1,
  notices: [
    {
      id: 7,
      kind: "draft-waits",
      said: "Ilse Varga asks you to approve a draft.",
      link: "/drafts/d1",
      at: "2026-11-29T09:00:00Z",
      read: false,
    },
    {
      id: 3,
      kind: "job-ended",
      said: "Trail as CSV: done.",
      at: "2026-11-28T09:00:00Z",
      read: true,
    },
  ],
};
const choices = {
  address: "noor@larkmoor.example",
  choices: [
    {
      kind: "draft-waits",
      title: "A draft waits for my approval",
      delivery: "mail",
      demanded: "digest",
    },
    { kind: "job-ended", title: "Long work of mine ended", delivery: "here" },
  ],
};
const job = (some: object) => ({
  id: "j1",
  kind: "trail-export",
  title: "Trail as CSV",
  details: {},
  state: "done",
  done: 9,
  total: 9,
  begun: "2026-11-29T08:00:00Z",
  ended: "2026-11-29T08:01:00Z",
  keptUntil: "2026-11-30T08:01:00Z",
  answered: false,
  bytes: 20,
  ...some,
});

describe("notices", () => {
  it("are listed with how each kind comes; what the account demands can't be undercut", async () => {
    const calls = serve({
      "/api/notices": notices,
      "/api/notices/choices": choices,
      "PUT /api/notices/choices/:kind": choices,
    });
    show(<NoticesPage />, "/you/notices");
    expect(await screen.findByText("1 notice unread.")).toBeDefined();
    expect(await screen.findByText(/Mail goes to noor@larkmoor.example/)).toBeDefined();
    expect(screen.getByText("Your account asks for this.")).toBeDefined();
    await userEvent.click(screen.getByRole("combobox", { name: "A draft waits for my approval" }));
    const daily = await waitFor(() => {
      const found = document.querySelectorAll<HTMLElement>(".ant-select-item-option");
      expect(found).toHaveLength(3);
      return found[1]!;
    });
    expect(document.querySelector(".ant-select-item-option-disabled")?.textContent).toBe(
      "Only here",
    );
    await userEvent.click(daily);
    await waitFor(() =>
      expect(calls.find((it) => it.method === "PUT")?.body).toEqual({ delivery: "digest" }),
    );
    expect(await screen.findByText("Saved.")).toBeDefined();
  });

  it("say that they can't come by mail to whoever has no address", async () => {
    serve({
      "/api/notices": { unread: 0, notices: [] },
      "/api/notices/choices": { choices: choices.choices },
    });
    show(<NoticesPage />, "/you/notices");
    expect(await screen.findByText(/You have no mail address/)).toBeDefined();
    expect(screen.getByText(/Drafts that wait for you/)).toBeDefined();
  });
});

describe("long work", () => {
  it("is listed with its result, its failure and its progress", async () => {
    const calls = serve({
      "/api/jobs": {
        jobs: [
          job({ file: "mandala-trail.csv" }),
          job({ id: "j2", title: "Failed work", state: "failed", fault: "It failed 3 times." }),
          job({
            id: "j3",
            kind: "escalation-search",
            title: "Who could get Approve loans",
            state: "running",
            done: 1,
            total: 4,
            details: { permission: "loan.approve", resource: "o-1", changes: 2 },
          }),
        ],
      },
      "DELETE /api/jobs/:id": {},
    });
    show(<WorkPage />, "/you/work");
    const file = await screen.findByRole("link", { name: "Download mandala-trail.csv" });
    expect(file.getAttribute("href")).toBe("/api/jobs/j1/file");
    expect(screen.getByText("It failed 3 times.")).toBeDefined();
    const search = screen.getByRole("link", { name: "Who could get Approve loans" });
    expect(search.getAttribute("href")).toBe(
      "/ask/escalation?permission=loan.approve&on=o-1&changes=2",
    );
    expect(screen.getByRole("progressbar").getAttribute("aria-valuenow")).toBe("25");
    await userEvent.click(screen.getByRole("button", { name: "Remove: Trail as CSV" }));
    await waitFor(() => expect(calls.some((it) => it.method === "DELETE")).toBe(true));
  });

  it("says what will be listed where there is none", async () => {
    serve({ "/api/jobs": { jobs: [] } });
    show(<WorkPage />, "/you/work");
    expect(within(await screen.findByText(/No long work/)).queryByRole("link")).toBeNull();
  });
});
