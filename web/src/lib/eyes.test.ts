import { describe, expect, it } from "vitest";
import { eyes, headersOf, nameOf } from "./eyes";

describe("an impersonated view", () => {
  it("stands in the window's name and comes back as it was", () => {
    const whose = { key: "noor.haddad", factor: true, at: "2026-05-01T09:00:00Z" };
    expect(eyes(nameOf(whose))).toEqual(whose);
  });

  it("is none where the name says something else, or nothing that can be read", () => {
    expect(eyes("")).toBeUndefined();
    expect(eyes("popup")).toBeUndefined();
    expect(eyes("mandala-eyes {")).toBeUndefined();
    expect(eyes('mandala-eyes {"key":""}')).toBeUndefined();
  });

  it("says whose eyes, which factor and when in headers", () => {
    expect(headersOf(undefined)).toEqual({});
    expect(headersOf({ key: "pia", factor: false })).toEqual({ "Mandala-As": "pia" });
    expect(headersOf({ key: "pia", factor: true, at: "2026-05-01T09:00:00Z" })).toEqual({
      "Mandala-As": "pia",
      "Mandala-As-Factor": "1",
      "Mandala-As-At": "2026-05-01T09:00:00Z",
    });
  });
});
