import { screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { describe, expect, it } from "vitest";
import { Refusal, serve, show } from "@/shared/testing/served";
import { around } from "@/shared/lib/figures";
import { AccountFigures } from "./components/AccountFigures";
import { AccountExposure } from "./components/AccountExposure";
import { change, series, type Day } from "./figures";
import { timeline } from "./timeline";

const DAYS: Day[] = [
  { day: "2026-11-27", people: 40, guests: 3, services: 2, dormant: 5, findings: 1 },
  { day: "2026-11-28", people: 41, guests: 3, services: 2, dormant: 4 },
  { day: "2026-11-29", people: 42, guests: 3, services: 2, dormant: 4, findings: 3 },
];

function figures(days: Day[] | Refusal) {
  serve({ "/api/accounts/:key/figures": days instanceof Refusal ? days : { days } });
  show(<AccountFigures account="q" />);
}

describe("the figures of an account", () => {
  it("say what there is, how it changed, and draw each day", async () => {
    figures(DAYS);
    const people = (await screen.findByText("People")).closest("div");
    expect(people?.textContent).toContain("42 +2");
    expect(screen.getByText("Guests").closest("div")?.textContent).toContain("3 as before");
    expect(screen.getByText("Dormant").closest("div")?.textContent).toContain("4 −1");
    expect(screen.getByText(/Since 27 Nov 2026/)).toBeDefined();
    await waitFor(() =>
      expect(document.querySelectorAll("path.recharts-line-curve")).toHaveLength(5),
    );
  });

  it("are numbers for whoever wants them, the newest first", async () => {
    figures(DAYS);
    await userEvent.click(await screen.findByRole("button", { name: "Show numbers" }));
    const rows = screen.getAllByRole("row").map((it) => it.textContent);
    expect(rows[0]).toContain("DayPeopleGuestsServicesDormantFindings");
    expect(rows[1]).toBe("29 Nov 20264232" + "43");
    expect(rows[2]).toBe("28 Nov 20264132" + "4");
    await userEvent.click(screen.getByRole("button", { name: "Hide numbers" }));
    expect(screen.queryByRole("row")).toBeNull();
  });

  it("leave out what one may not know", async () => {
    figures(DAYS.map(({ day, people }) => ({ day, people: people ?? 0 })));
    expect(await screen.findByText("People")).toBeDefined();
    expect(screen.queryByText("Findings")).toBeNull();
  });

  it("say why there are none", async () => {
    figures([]);
    expect(await screen.findByText(/Nothing is counted yet/)).toBeDefined();
  });

  it("say who can see them where one may see part of the account", async () => {
    figures(DAYS.map(({ day }) => ({ day })));
    expect(await screen.findByText(/Only people who can read the whole account/)).toBeDefined();
  });

  it("can be tried again", async () => {
    figures(new Refusal(503, { title: "The database cannot be reached", detail: "Try again." }));
    expect(await screen.findByText("The database cannot be reached")).toBeDefined();
    expect(screen.getByRole("button", { name: "Try again" })).toBeDefined();
  });
});

describe("a figure", () => {
  it("has the days of which it is told", () => {
    expect(series(DAYS, "findings")).toEqual([
      { day: "2026-11-27", value: 1 },
      { day: "2026-11-29", value: 3 },
    ]);
  });

  it("changed from its first day to its last", () => {
    expect(change([{ value: 4 }, { value: 9 }, { value: 5 }])).toBe("+1");
    expect(change([{ value: 4 }])).toBe("as before");
    expect(change([])).toBe("as before");
  });

  it("is drawn in the middle while it stays the same", () => {
    expect(around([7, 7])).toEqual([6, 8]);
    expect(around([0, 100])).toEqual([-10, 110]);
  });
});

describe("the exposure of an account", () => {
  const days = [
    { day: "2026-06-01", exposure: 9000 },
    { day: "2026-11-01", exposure: 12000, unused: 9000 },
    { day: "2026-11-20", exposure: 8000, unused: 2000 },
  ];

  it("is drawn over time, with what is not used since that is known", async () => {
    serve({ "/api/accounts/:key/figures/exposure": { days } });
    show(<AccountExposure account="q" />);
    expect(await screen.findByText(/now 8,000, of which 2,000 \(25 %\) is not used/)).toBeDefined();
    expect(screen.getByText(/Use is counted since 1 Nov 2026/)).toBeDefined();
    await waitFor(() =>
      expect(document.querySelectorAll("path.recharts-line-curve")).toHaveLength(2),
    );
    await userEvent.click(screen.getByRole("button", { name: "Show numbers" }));
    const rows = screen.getAllByRole("row").map((it) => it.textContent);
    expect(rows.at(1)).toBe("20 Nov 20268,0002,00025 %");
    expect(rows.at(3)).toBe("1 Jun 20269,000——");
  });

  it("is left out where one may not know it", async () => {
    serve({ "/api/accounts/:key/figures/exposure": { days: [] } });
    show(<AccountExposure account="q" />);
    expect(await screen.findByText(/Loading the exposure/)).toBeDefined();
    await waitFor(() => expect(screen.queryByText(/Loading the exposure/)).toBeNull());
    expect(screen.queryByText("Exposure over time")).toBeNull();
  });

  it("goes on until now", () => {
    const now = Date.parse("2026-11-30T12:00:00Z");
    const points = timeline(days, now);
    expect(points).toHaveLength(4);
    expect(points.at(-1)).toEqual({ time: now, exposure: 8000, unused: 2000 });
    expect(points[0]).not.toHaveProperty("unused");
    expect(timeline([], now)).toEqual([]);
  });
});
