import { describe, expect, it } from "vitest";
import { clauseInWords } from "@/entities/scope/model";
import { editsOf, EMPTY_PLAN, missing, planOf, type Plan } from "./model";

const guards = { ref: "group:guards", name: "Guards" };
const keeper = { ref: "role:keeper", name: "Keeper" };
const plan: Plan = { ...EMPTY_PLAN, subjects: [guards], gives: keeper, scope: [{ tree: "hall" }] };

describe("a plan", () => {
  it("says what is missing, and that nothing chosen covers nothing", () => {
    expect(missing(EMPTY_PLAN, false, false)).toBe("Choose who.");
    expect(missing({ ...plan, gives: undefined }, false, false)).toBe("Choose what to grant.");
    expect(missing({ ...plan, scope: [] }, false, false)).toContain("covers nothing");
    expect(
      missing(
        { ...plan, from: "2027-02-01T00:00:00Z", until: "2027-01-01T00:00:00Z" },
        false,
        false,
      ),
    ).toContain("must come after the start");
    expect(missing(plan, true, false)).toContain("everything");
    expect(missing(plan, true, true)).toBeUndefined();
    expect(missing(plan, false, false)).toBeUndefined();
  });

  it("becomes one assignment for each subject, with what is asked for before", () => {
    const two = { ...plan, subjects: [guards, { ref: "person:noor", name: "Noor" }] };
    const before = { ref: "role:staff", name: "Staff" };
    const edits = editsOf(two, undefined, [before]);
    expect(edits.map((it) => [it.after?.["subject"], it.after?.["gives"]])).toEqual([
      ["group:guards", "role:keeper"],
      ["group:guards", "role:staff"],
      ["person:noor", "role:keeper"],
      ["person:noor", "role:staff"],
    ]);
  });

  it("leaves defaults out, and writes the rest as a document does", () => {
    expect(editsOf(plan, undefined)[0]?.after).toEqual({
      subject: "group:guards",
      gives: "role:keeper",
      scope: [{ tree: "hall" }],
    });
    const more = { ...plan, until: "2027-01-01T00:00:00Z", justInTime: true, crossesSeals: true };
    expect(editsOf(more, "a1")[0]).toEqual({
      kind: "assignments",
      key: "a1",
      after: {
        key: "a1",
        subject: "group:guards",
        gives: "role:keeper",
        scope: [{ tree: "hall" }],
        until: "2027-01-01T00:00:00Z",
        mode: "just-in-time",
        crossesSeals: true,
      },
    });
  });

  it("never denies a role", () => {
    expect(editsOf({ ...plan, denies: true }, undefined)[0]?.after).not.toHaveProperty("effect");
  });

  it("is read back from an assignment", () => {
    const thing = { scope: [{ only: "x" }], mode: "just-in-time", until: "2027-01-01T00:00:00Z" };
    expect(planOf(thing, guards, keeper)).toMatchObject({
      scope: [{ only: "x" }],
      justInTime: true,
      until: "2027-01-01T00:00:00Z",
      denies: false,
    });
  });
});

describe("a clause", () => {
  it("reads in words", () => {
    const names = new Map([["tree:hall", "Great hall"]]);
    expect(clauseInWords({ tree: "hall", type: "room" }, names)).toBe(
      "everything in Great hall, type room",
    );
    expect(clauseInWords({ unit: "own" }, names)).toBe("their own unit");
    expect(clauseInWords({ owner: "team" }, names)).toBe("records their team owns");
    expect(clauseInWords({ labels: { floor: "2" } }, names)).toBe("floor 2");
    expect(clauseInWords({ everything: true }, names)).toBe("everything");
  });
});
