import { describe, expect, it } from "vitest";
import {
  editsOf,
  filterOf,
  pagesOf,
  rolesInWords,
  rowsInSight,
  statesInWords,
  figureFrom,
  personPage,
  stateInWords,
  windowInWords,
  queryOf,
} from "./model";

describe("the list of people", () => {
  it("draws what is in sight and a little around it", () => {
    expect(rowsInSight(0, 580, 100000)).toEqual([0, 16]);
    expect(rowsInSight(58 * 1000, 580, 100000)).toEqual([994, 1016]);
    expect(rowsInSight(58 * 1000, 580, 3)).toEqual([3, 3]);
  });

  it("fetches the stretches that it draws", () => {
    expect(pagesOf(0, 16)).toEqual([0]);
    expect(pagesOf(994, 1016)).toEqual([19, 20]);
    expect(pagesOf(3, 3)).toEqual([]);
  });

  it("reads its filter from the address", () => {
    expect(filterOf(new URLSearchParams(""), "q")).toEqual({
      account: "q",
      states: ["active", "invited"],
      title: "",
      text: "",
      more: {},
      by: "",
      of: "",
      sort: "",
    });
    const told = new URLSearchParams("in=f&state=left,gone&job=Registrar&text=od&role=r&by=x");
    expect(filterOf(told, "q")).toMatchObject({
      account: "f",
      states: ["left"],
      title: "Registrar",
      text: "od",
      more: { role: "r" },
      by: "",
    });
  });

  it("asks the server for numbers where a filter has them", () => {
    const told = new URLSearchParams("unseen=30&ends=soon&exposed=1000&factor=no&by=unit");
    const query = queryOf(filterOf(told, "q"));
    expect(query).toMatchObject({ unseen: 30, exposed: 1000, factor: "no", by: "unit" });
    expect(query).not.toHaveProperty("ends");
  });

  it("says its words", () => {
    expect(statesInWords(["invited", "active"])).toBe("active or invited");
    expect(statesInWords([])).toBe("in any state");
    expect(rolesInWords(["A", "B", "C", "D"])).toEqual({ shown: "A, B, C", more: 1 });
  });
});

describe("many people at once", () => {
  const people = [
    { key: "noor", kind: "person" },
    { key: "printer", kind: "service" },
  ];

  it("get a manager, but none of them themselves", () => {
    expect(editsOf({ kind: "manager", manager: "tomas" }, people)).toEqual([
      { kind: "principals", key: "noor", set: { manager: "tomas" } },
    ]);
    expect(editsOf({ kind: "manager", manager: "noor" }, people)).toEqual([]);
  });

  it("end on a day", () => {
    expect(editsOf({ kind: "until", until: "2027-03-01" }, people)[1]).toEqual({
      kind: "principals",
      key: "printer",
      set: { until: "2027-03-01T00:00:00Z" },
    });
  });

  it("join a group by one edit", () => {
    expect(editsOf({ kind: "join", group: "g" }, people)).toEqual([
      { kind: "groups", key: "g", add: { members: ["person:noor", "service:printer"] } },
    ]);
  });

  it("get a unit or a state each, active being what is not written", () => {
    expect(editsOf({ kind: "unit", unit: "u" }, people)).toEqual([
      { kind: "principals", key: "noor", set: { unit: "u" } },
      { kind: "principals", key: "printer", set: { unit: "u" } },
    ]);
    const states = (state: string) =>
      editsOf({ kind: "state", state }, people).map((it) => it.set?.status);
    expect(states("suspended")).toEqual(["suspended", "suspended"]);
    expect(states("active")).toEqual([null, null]);
  });
});

it("a thumbprint becomes a whole figure again", () => {
  const figure = figureFrom(
    {
      rights: 12,
      areas: [1, 0],
      petals: [
        [0, 2, 10, 4, 1, 0, 4],
        [1, 0, 5, 5, 0, 0, 1],
      ],
    },
    [
      { account: false, door: false, size: 100 },
      { account: true, door: true, size: 7 },
    ],
  );
  expect(figure.rights).toBe(12);
  expect(figure.sectors.map((it) => [it.size, it.door])).toEqual([
    [7, true],
    [100, false],
  ]);
  expect(figure.sectors[0]?.petals[2]).toEqual({
    accessClass: "administer",
    applicable: 10,
    reached: 4,
    blocked: 1,
    denied: 0,
    risk: "critical",
  });
  expect(figure.sectors[0]?.petals[0]).toMatchObject({ accessClass: "view", reached: 0 });
  expect(figure.sectors[1]?.petals[0]?.risk).toBe("low");
});

describe("a person in words", () => {
  it("has a page under a key of any spelling", () => {
    expect(personPage({ key: "odile.farrow" })).toBe("/people/odile.farrow");
    expect(personPage({ key: "a/b c" })).toBe("/people/a%2Fb%20c");
  });

  it("is in a state that says why there is no access", () => {
    expect(["active", "suspended", "not yet", "over"].map(stateInWords)).toEqual([
      "active",
      "suspended",
      "not active yet",
      "no longer active",
    ]);
  });

  it("can be active within bounds", () => {
    const [from, until] = ["2026-12-01T00:00:00Z", "2027-06-30T00:00:00Z"];
    expect(windowInWords(from, until)).toBe("active from 1 Dec 2026 until 29 Jun 2027");
    expect(windowInWords(from, "")).toBe("active from 1 Dec 2026");
    expect(windowInWords("", until)).toBe("active until 29 Jun 2027");
    expect(windowInWords("", "")).toBe("");
  });
});
