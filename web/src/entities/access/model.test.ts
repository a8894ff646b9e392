import { describe, expect, it } from "vitest";
import {
  accessAddress,
  countRegions,
  differAddress,
  faultOf,
  fitting,
  idOf,
  markOf,
  marksOf,
  momentInWords,
  narrowed,
  personIn,
  questionOf,
  routesAddress,
  regionOrder,
  rowsOf,
  verdictInWords,
  whoAddress,
  type Cell,
  type Permission,
  type Region,
} from "./model";

const edit: Permission = {
  key: "object.edit",
  name: "Edit objects",
  accessClass: "change",
  risk: "moderate",
};

function cell(more: Partial<Cell> = {}): Cell {
  return {
    permission: "object.edit",
    applicable: 10,
    allowed: 0,
    blocked: 0,
    denied: 0,
    sample: "o-1",
    ...more,
  };
}

function region(resource: string, more: Partial<Region> = {}): Region {
  return {
    shape: "tree",
    resource,
    name: resource,
    account: "q",
    note: "",
    size: 1,
    door: false,
    sealed: false,
    members: [],
    cells: [],
    below: [],
    more: false,
    ...more,
  };
}

describe("the question", () => {
  it("is read from the address, oneself and the working account where it is silent", () => {
    expect(questionOf(new URLSearchParams(""), "noor", "q")).toEqual({
      who: "noor",
      in: "q",
      doors: false,
      at: "",
      factor: false,
      actingFor: "",
    });
    const told = new URLSearchParams(
      "who=pia&in=f&doors=1&at=2026-05-01T09:00:00Z&factor=1&for=tom",
    );
    expect(questionOf(told, "noor", "q")).toEqual({
      who: "pia",
      in: "f",
      doors: true,
      at: "2026-05-01T09:00:00Z",
      factor: true,
      actingFor: "tom",
    });
  });

  it("has a fault where its instant is none", () => {
    expect(faultOf("")).toBeUndefined();
    expect(faultOf("2026-05-01T09:00:00Z")).toBeUndefined();
    expect(faultOf("2026-13-01T09:00:00Z")).toContain("is not a date and time");
    expect(faultOf("tomorrow")).toContain("“tomorrow” is not a date and time");
  });
});

describe("a mark", () => {
  it("shows the strongest verdict and its share", () => {
    expect(markOf(cell({ allowed: 5, denied: 5 }), edit)).toMatchObject({
      verdict: "allowed",
      share: 0.5,
    });
    expect(markOf(cell({ blocked: 10 }), edit)).toMatchObject({ verdict: "blocked", share: 1 });
    expect(markOf(cell({ denied: 2 }), edit)).toMatchObject({ verdict: "denied", share: 0.2 });
    expect(markOf(cell(), edit)).toMatchObject({ verdict: "none", share: 0 });
  });

  it("is told in words", () => {
    expect(verdictInWords(markOf(cell({ allowed: 10 }), edit))).toBe("allowed");
    expect(verdictInWords(markOf(cell({ allowed: 3 }), edit))).toBe("allowed on 3 of 10");
    expect(verdictInWords(markOf(cell({ blocked: 10 }), edit))).toBe("blocked, a gate is missing");
    expect(verdictInWords(markOf(cell({ denied: 1 }), edit))).toBe("denied on 1 of 10");
    expect(verdictInWords(markOf(cell(), edit))).toBe("not granted");
  });

  it("of the model's own rights stands only where something is held", () => {
    const own: Permission = { ...edit, key: "mandala.access.assign", accessClass: "administer" };
    const permissions = new Map([[own.key, own]]);
    const cells = [cell({ permission: own.key })];
    expect(marksOf(region("r", { cells }), permissions).administer).toEqual([]);
    expect(
      marksOf(region("r", { cells, shape: "organisation" }), permissions).administer,
    ).toHaveLength(1);
  });

  it("gives way to those that say something where there is no room", () => {
    const marks = [cell(), cell({ allowed: 1 }), cell(), cell({ denied: 1 })].map((it) =>
      markOf(it, edit),
    );
    expect(fitting(marks, 4)).toEqual({ shown: marks, more: 0 });
    expect(fitting(marks, 2)).toEqual({ shown: [marks[1], marks[3]], more: 0 });
    expect(fitting(marks, 1)).toEqual({ shown: [marks[1]], more: 1 });
  });
});

describe("the table", () => {
  const tree = [
    region("q", { shape: "organisation" }),
    region("desk", { below: [region("in"), region("in", { shape: "alike" })] }),
  ];

  it("shows what is unfolded", () => {
    expect(rowsOf(tree, { unfolded: new Set() }).map((it) => it.region.resource)).toEqual([
      "q",
      "desk",
    ]);
    const desk = tree[1] as Region;
    const rows = rowsOf(tree, { unfolded: new Set([idOf(desk, "")]) });
    expect(rows.map((it) => [it.region.resource, it.depth])).toEqual([
      ["q", 0],
      ["desk", 0],
      ["in", 1],
      ["in", 1],
    ]);
    expect(new Set(rows.map((it) => it.id)).size).toBe(4);
  });

  it("is ordered by name or by what is allowed, parent by parent", () => {
    const named = (name: string, allowed: number, below: Region[] = []) =>
      region(name, { name, cells: [cell({ allowed })], below });
    const places = [named("b", 4, [named("z", 0), named("y", 4)]), named("a", 0), named("c", 4)];
    const shown = (column: string, order: "ascend" | "descend" | null) =>
      rowsOf(places, {
        unfolded: new Set(["/b"]),
        order: regionOrder(column, order, new Map([[edit.key, edit]])),
      })
        .map((it) => it.region.name)
        .join("");
    expect(shown("where", null)).toBe("bzyac");
    expect(shown("where", "ascend")).toBe("abyzc");
    expect(shown("where", "descend")).toBe("cbzya");
    expect(shown(edit.accessClass, "descend")).toBe("byzca");
    expect(shown(edit.accessClass, "ascend")).toBe("abzyc");
  });

  it("is narrowed by a sector", () => {
    expect(narrowed(tree, undefined)).toBe(tree);
    expect(narrowed(tree, "desk").map((it) => it.resource)).toEqual(["desk"]);
    expect(narrowed(tree, "organisation:q").map((it) => it.shape)).toEqual(["organisation"]);
    expect(narrowed(tree, "gone")).toBe(tree);
    expect(countRegions(tree)).toBe(4);
  });
});

describe("addresses of answers", () => {
  it("name what was asked and leave out what was not", () => {
    expect(whoAddress({ permission: "loan.view", on: "account:a b", secondFactor: true })).toBe(
      "/api/ask/who?permission=loan.view&on=account%3Aa+b&secondFactor=true",
    );
    expect(differAddress({ one: "pia", other: "noor", in: "" })).toBe(
      "/api/ask/difference?one=pia&other=noor",
    );
  });

  it("say an instant, or today", () => {
    expect(momentInWords(undefined)).toBe("today");
    expect(momentInWords("2026-05-01T09:00:00Z")).toBe("1 May 2026, 09:00 UTC");
  });
});

describe("addresses of answers", () => {
  const question = {
    who: "noor",
    in: "q",
    doors: true,
    at: "2026-05-01T09:00:00Z",
    factor: true,
    actingFor: "*",
    on: ["night", "vault"],
    revision: "3",
  };

  it("hold all that was asked, so that a file says the same as the page", () => {
    const whole = new URL(accessAddress(question), "http://here").searchParams;
    expect(Object.fromEntries(whole)).toEqual({
      principal: "noor",
      in: "q",
      doors: "true",
      at: "2026-05-01T09:00:00Z",
      secondFactor: "true",
      actingFor: "*",
      on: "night,vault",
      revision: "3",
    });
    const routes = new URL(routesAddress(question, "loan.view", "l-1"), "http://here").searchParams;
    expect(routes.get("permission")).toBe("loan.view");
    expect(routes.get("resource")).toBe("l-1");
    expect(routes.get("on")).toBe("night,vault");
  });

  it("read what is switched on", () => {
    const read = questionOf(new URLSearchParams("who=noor&with=night,vault"), "self", "q");
    expect(read.on).toEqual(["night", "vault"]);
    expect(questionOf(new URLSearchParams("who=noor"), "self", "q").on).toBeUndefined();
  });

  it("tell a person on a side of a comparison from what is none", () => {
    expect(personIn("noor")).toBe("noor");
    expect(personIn("role:registrar")).toBeUndefined();
    expect(personIn("colleagues:noor")).toBeUndefined();
    expect(personIn("")).toBeUndefined();
  });
});
