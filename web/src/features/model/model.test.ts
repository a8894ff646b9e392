import { describe, expect, it } from "vitest";
import { formOf, instantAt, missingIn, specOf, thingOf } from "./model";

describe("a form of a thing", () => {
  it("says what is still missing, by the words of its fields", () => {
    expect(missingIn(specOf("bridges"), { account: "dunlow" })).toBe(
      "Still missing: for the group, gives, where.",
    );
    expect(missingIn(specOf("patterns"), { name: "Guard" })).toBeUndefined();
  });

  it("takes an exclusion with one side for unfinished", () => {
    const one = { name: "Two pairs of eyes", where: "account", sides: [["loan.draft"]] };
    expect(missingIn(specOf("exclusions"), one)).toContain("two sides");
    expect(
      missingIn(specOf("exclusions"), { ...one, sides: [["loan.draft"], ["loan.approve"]] }),
    ).toBeUndefined();
  });

  it("leaves out what is empty, and reads back what it wrote", () => {
    const form = { name: "Seal", delegable: "no", implies: [], description: "", sealed: false };
    expect(thingOf(form)).toEqual({ name: "Seal", delegable: false });
    expect(formOf(thingOf(form))).toEqual({ name: "Seal", delegable: "no" });
  });

  it("keeps the time of day of a window whose day stays", () => {
    expect(instantAt("2026-11-23", "2026-11-23T17:30:00Z")).toBe("2026-11-23T17:30:00Z");
    expect(instantAt("2026-11-24", "2026-11-23T17:30:00Z")).toBe("2026-11-24T00:00:00Z");
    expect(instantAt("", "2026-11-23T17:30:00Z")).toBeUndefined();
  });

  it("knows no form for what it does not know", () => {
    expect(() => specOf("ghosts")).toThrow("No form for ghosts");
  });
});
