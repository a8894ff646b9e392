import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { layOut } from "./mandala";

type Sector = Schemas["Sector"];

function petal(accessClass: string, reached = 0, more: Partial<Schemas["Petal"]> = {}) {
  return { accessClass, applicable: 100, reached, blocked: 0, denied: 0, ...more };
}

function sector(key: string, size: number, more: Partial<Sector> = {}): Sector {
  return {
    key,
    name: key,
    account: false,
    door: false,
    size,
    petals: [petal("view"), petal("change"), petal("administer")],
    ...more,
  };
}

describe("the mandala", () => {
  it("gives the same angles to everybody with the same areas", () => {
    const areas = [sector("a", 100), sector("b", 25)];
    const richer = [
      sector("a", 100, { petals: [petal("view", 100)] }),
      sector("b", 25, { petals: [petal("view", 1)] }),
    ];
    const angles = (sectors: Sector[]) =>
      layOut({ rights: 0, sectors }, 100).map((it) => [it.from, it.to]);
    expect(angles(richer)).toEqual(angles(areas));
  });

  it("goes once around, larger areas by the square root of their size", () => {
    const [a, b] = layOut({ rights: 0, sectors: [sector("a", 10000), sector("b", 100)] }, 100);
    expect(a?.from).toBe(0);
    expect(b?.to).toBeCloseTo(2 * Math.PI);
    const widths = [(a?.to ?? 0) - (a?.from ?? 0), (b?.to ?? 0) - (b?.from ?? 0)];
    expect(widths[0]).toBeGreaterThan((widths[1] ?? 0) * 5);
  });

  it("sets doors and sub-accounts apart", () => {
    const sectors = [sector("a", 9), sector("b", 9), sector("c", 9, { door: true })];
    const [, b, c] = layOut({ rights: 0, sectors }, 100);
    expect((c?.from ?? 0) - (b?.to ?? 0)).toBeGreaterThan(0.1);
    expect(c?.apart).toBe(true);
  });

  it("tells a filled, a hollow, a struck and an empty petal apart", () => {
    const petals = [
      petal("view", 40, { risk: "high" }),
      petal("change", 0, { blocked: 10 }),
      petal("administer", 0, { denied: 5 }),
    ];
    const [shape] = layOut({ rights: 40, sectors: [sector("a", 100, { petals })] }, 100);
    expect(shape?.petals.map((it) => it.kind)).toEqual(["filled", "hollow", "empty"]);
    expect(shape?.petals.map((it) => it.struck)).toEqual([false, false, true]);
    expect(shape?.description).toBe(
      "a: view 40 of 100, up to high risk; change 0 of 100, 10 resources blocked by a missing gate; administer 0 of 100, 5 resources denied",
    );
  });

  it("keeps the labels of narrow sectors apart", () => {
    const sectors = ["a", "b", "c", "d"].map((key) => sector(key, 1));
    const shapes = layOut({ rights: 0, sectors: [...sectors, sector("e", 90000)] }, 160);
    const heights = shapes
      .slice(0, 4)
      .map((it) => it.labelAt[1])
      .sort((x, y) => x - y);
    heights.slice(1).forEach((y, i) => expect(y - (heights[i] ?? 0)).toBeGreaterThanOrEqual(12.9));
  });

  it("draws what differs as outlines, by the share of the area, and only there", () => {
    const sectors = [sector("a", 100), sector("b", 100)];
    const more = {
      rights: 25,
      sectors: [
        sector("a", 100, { petals: [petal("view", 25), petal("change"), petal("administer")] }),
      ],
    };
    const plain = layOut({ rights: 0, sectors }, 100);
    expect(plain.flatMap((it) => it.petals.map((each) => each.raised + each.sunken)).join("")).toBe(
      "",
    );
    const [a, b] = layOut({ rights: 0, sectors }, 100, { raised: more, sunken: null });
    expect(a?.petals.map((it) => it.raised !== "")).toEqual([true, false, false]);
    expect(a?.petals.map((it) => it.sunken)).toEqual(["", "", ""]);
    expect(b?.petals.every((it) => it.raised === "")).toBe(true);
    const whole = { rights: 100, sectors: [sector("a", 100, { petals: [petal("view", 100)] })] };
    expect(layOut({ rights: 0, sectors }, 100, { raised: whole })[0]?.petals[0]?.raised).not.toBe(
      a?.petals[0]?.raised,
    );
  });

  it("says that there is nothing", () => {
    const [shape] = layOut({ rights: 0, sectors: [sector("a", 4)] }, 100);
    expect(shape?.description).toBe("a: no access");
  });

  it("draws no area at all without failing", () => {
    expect(layOut({ rights: 0, sectors: [] }, 100)).toEqual([]);
  });
});
