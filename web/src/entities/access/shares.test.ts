import { describe, expect, it } from "vitest";
import type { Schemas } from "@/shared/api/client";
import { layOut } from "./mandala";
import { partsOf } from "./MandalaShares";

type Figure = Schemas["FigureView"];

function figure(view: number, change = 0): Figure {
  const petal = (accessClass: string, reached: number) => ({
    accessClass,
    applicable: 100,
    reached,
    blocked: 0,
    denied: 0,
  });
  return {
    rights: view + change,
    sectors: [
      {
        key: "a",
        name: "a",
        account: false,
        door: false,
        size: 100,
        petals: [petal("view", view), petal("change", change), petal("administer", 0)],
      },
    ],
  };
}

describe("the shares of a mandala", () => {
  it("hatches what is not used and dots what is not observed, petal by petal", () => {
    const parts = partsOf({
      figure: figure(40, 10),
      shares: { used: figure(10, 0), kept: figure(20, 0) },
      radius: 100,
    });
    expect(parts.map((it) => it.key)).toEqual([
      "a view unobserved",
      "a view unused",
      "a change unused",
    ]);
  });

  it("draws nothing where all is used, and nothing twice where more is used than held", () => {
    const shares = { used: figure(40), kept: figure(40) };
    expect(partsOf({ figure: figure(40), shares, radius: 100 })).toEqual([]);
    expect(partsOf({ figure: figure(30), shares, radius: 100 })).toEqual([]);
  });

  it("tells in words what is used", () => {
    const [sector] = layOut(figure(40), 100, {}, figure(10));
    expect(sector?.description).toBe("a: view 40 of 100, 10 used");
  });
});
