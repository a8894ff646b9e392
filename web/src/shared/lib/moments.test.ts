import dayjs from "dayjs";
import { describe, expect, it } from "vitest";
import { instantOf, momentOf, zones } from "./moments";

const day = dayjs("2026-11-30");

describe("moments", () => {
  it.each([
    ["first", "UTC", "2026-11-30T00:00:00Z"],
    ["end", "UTC", "2026-12-01T00:00:00Z"],
    ["first", "Asia/Tokyo", "2026-11-29T15:00:00Z"],
    ["end", "America/New_York", "2026-12-01T05:00:00Z"],
  ] as const)("a whole day, %s moment in %s, is %s", (edge, zone, instant) => {
    expect(instantOf({ day, timed: false }, edge, zone)).toBe(instant);
    const back = momentOf(instant, edge, zone);
    expect(back?.timed).toBe(false);
    expect(back?.day.format("YYYY-MM-DD")).toBe("2026-11-30");
  });

  it("a day of 25 hours ends with its last", () => {
    const autumn = dayjs("2026-10-25");
    expect(instantOf({ day: autumn, timed: false }, "first", "Europe/London")).toBe(
      "2026-10-24T23:00:00Z",
    );
    expect(instantOf({ day: autumn, timed: false }, "end", "Europe/London")).toBe(
      "2026-10-26T00:00:00Z",
    );
  });

  it("a time of day stays that time in its zone", () => {
    const timed = { day: day.hour(14).minute(5), timed: true };
    const instant = instantOf(timed, "end", "Europe/Berlin");
    expect(instant).toBe("2026-11-30T13:05:00Z");
    const back = momentOf(instant, "end", "Europe/Berlin");
    expect(back?.timed).toBe(true);
    expect(back?.day.format("HH:mm")).toBe("14:05");
  });

  it("what is no instant is no moment", () => {
    expect(momentOf("soon", "end", "UTC")).toBeUndefined();
    expect(momentOf("", "end", "UTC")).toBeUndefined();
  });

  it("UTC comes first among the zones", () => {
    expect(zones()[0]).toBe("UTC");
    expect(zones()).toContain("Europe/Berlin");
  });
});
