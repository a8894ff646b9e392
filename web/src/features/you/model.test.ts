import { describe, expect, it } from "vitest";
import type { Region } from "@/entities/access/model";
import { endsSoon, heldIn } from "./model";

const region = (name: string, cells: object[]) =>
  ({ name, resource: name, cells, below: [] }) as unknown as Region;

describe("what one holds", () => {
  it("is said by place, with how much of it, and without Mandala's own rights", () => {
    const regions = [
      region("Loans desk", [
        { permission: "loan.view", allowed: 4, applicable: 4 },
        { permission: "loan.edit", allowed: 1, applicable: 4 },
        { permission: "mandala.directory.read", allowed: 1, applicable: 1 },
      ]),
      region("Vault", [{ permission: "loan.view", allowed: 0, applicable: 2 }]),
    ];
    expect(heldIn(regions, new Map([["loan.view", "View loans"]]))).toEqual([
      {
        place: "Loans desk",
        resource: "Loans desk",
        allowed: ["View loans", "loan.edit (on 1 of 4)"],
      },
    ]);
  });

  it("is told inside of places that are held in part, and not twice", () => {
    const part = (name: string, allowed: number, applicable: number, below: Region[] = []) => ({
      ...region(name, [
        { permission: "loan.view", allowed: 6, applicable: 6 },
        { permission: "loan.edit", allowed, applicable },
      ]),
      below,
    });
    const museum = part("Museum", 3, 6, [part("Desk", 3, 3), part("Vault", 0, 3)]);
    expect(heldIn([museum], new Map()).map((it) => [it.place, it.allowed])).toEqual([
      ["Museum", ["loan.view"]],
      ["Desk", ["loan.edit"]],
    ]);
  });

  it("ends soon where a month is not over before it", () => {
    const now = new Date("2026-11-23T12:00:00Z");
    expect(endsSoon("2026-12-01T00:00:00Z", now)).toBe(true);
    expect(endsSoon("2027-12-01T00:00:00Z", now)).toBe(false);
    expect(endsSoon("2026-11-01T00:00:00Z", now)).toBe(false);
    expect(endsSoon(undefined, now)).toBe(false);
  });
});
