import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { serve, show } from "@/shared/testing/served";
import { Bell } from "./Bell";

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
describe("the bell", () => {
  it("counts what is unread, lists it, and marks all as read", async () => {
    const calls = serve({
      "/api/notices": notices,
      "/api/jobs": {
        jobs: [
          {
            id: "j1",
            kind: "trail-export",
            title: "Trail as CSV",
            details: {},
            state: "running",
            done: 1,
            begun: "2026-11-29T08:00:00Z",
            answered: false,
            bytes: 0,
          },
        ],
      },
      "POST /api/notices/read": { unread: 0, notices: [] },
    });
    show(<Bell />, "/");
    await userEvent.click(await screen.findByRole("button", { name: "Notices: 1 unread" }));
    const link = await screen.findByRole("link", { name: /Ilse Varga asks you/ });
    expect(link.getAttribute("href")).toBe("/drafts/d1");
    expect(await screen.findByRole("link", { name: "1 job running" })).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Mark all as read" }));
    await waitFor(() =>
      expect(calls.find((it) => it.method === "POST")?.body).toEqual({ id: 7, andOlder: true }),
    );
    expect(await screen.findByText(/Nothing yet/)).toBeDefined();
  });
});
