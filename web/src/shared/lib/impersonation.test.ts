import { describe, expect, it } from "vitest";
import { impersonation, impersonationHeaders, nameOf } from "./impersonation";

describe("an impersonated view", () => {
  it("stands in the window's name and comes back as it was", () => {
    const whose = { key: "noor.haddad", factor: true, at: "2026-05-01T09:00:00Z" };
    expect(impersonation(nameOf(whose))).toEqual(whose);
  });

  it("is none where the name says something else, or nothing that can be read", () => {
    expect(impersonation("")).toBeUndefined();
    expect(impersonation("popup")).toBeUndefined();
    expect(impersonation("mandala-view {")).toBeUndefined();
    expect(impersonation('mandala-view {"key":""}')).toBeUndefined();
  });

  it("says whose impersonation, which factor and when in headers", () => {
    expect(impersonationHeaders(undefined)).toEqual({});
    expect(impersonationHeaders({ key: "pia", factor: false })).toEqual({ "Mandala-As": "pia" });
    expect(impersonationHeaders({ key: "pia", factor: true, at: "2026-05-01T09:00:00Z" })).toEqual({
      "Mandala-As": "pia",
      "Mandala-As-Factor": "1",
      "Mandala-As-At": "2026-05-01T09:00:00Z",
    });
  });
});
