import { describe, expect, it } from "vitest";
import { ago, count, dateOf, dayOf, listed, beginningOf, endOf } from "./words";

describe("words", () => {
  it("count says one and many", () => {
    expect(count(1, "right")).toBe("1 right");
    expect(count(1204, "right")).toBe("1,204 rights");
    expect(count(2, "person", "people")).toBe("2 people");
  });

  it("ago counts calendar days", () => {
    const now = new Date("2026-11-23T01:00:00Z");
    expect(ago(undefined, now)).toBe("never");
    expect(ago("2026-11-23T00:10:00Z", now)).toBe("today");
    expect(ago("2026-11-22T23:50:00Z", now)).toBe("yesterday");
    expect(ago("2026-09-23T00:00:00Z", now)).toBe("61 days ago");
    expect(ago("2024-01-02T00:00:00Z", now)).toBe("2 Jan 2024");
  });

  it("dates are written out, in UTC", () => {
    expect(dayOf("2026-11-28T23:59:00Z")).toBe("28 Nov 2026");
    expect(dateOf("2026-09-01T09:00:00Z")).toBe("1 Sep 2026, 09:00 UTC");
  });

  it("lists names as people write them", () => {
    expect(listed([])).toBe("");
    expect(listed(["Ada"])).toBe("Ada");
    expect(listed(["Ada", "Bas", "Cleo"])).toBe("Ada, Bas and Cleo");
  });
});

it("ends and beginnings are read as people say them", () => {
  expect(endOf("2026-12-01T00:00:00Z")).toBe("30 Nov 2026");
  expect(endOf("2026-12-01T17:30:00Z")).toBe("1 Dec 2026, 17:30 UTC");
  expect(beginningOf("2026-12-01T00:00:00Z")).toBe("1 Dec 2026");
  expect(beginningOf("2026-12-01T08:00:00Z")).toBe("1 Dec 2026, 08:00 UTC");
});
