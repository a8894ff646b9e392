import { expect, it } from "vitest";
import type { ThingView } from "@/entities/thing/queries";
import { apart, picture } from "./model";

const permission = (key: string, thing: object) =>
  ({ kind: "permissions", key, name: key, thing }) as unknown as ThingView;

it("what implies or needs others stands to their right", () => {
  const all = [
    permission("edit", { implies: ["view"], requires: ["open"] }),
    permission("view", { requires: ["open"] }),
    permission("open", {}),
    permission("far", { implies: ["elsewhere"] }),
  ];
  const { spots, arrows, columns, rows } = picture(all, new Map([["view", "View"]]));
  const column = Object.fromEntries(spots.map((it) => [it.key, it.column]));
  expect(column).toEqual({ open: 0, far: 0, view: 1, edit: 2 });
  expect(arrows.every((it) => it.from.column > it.to.column)).toBe(true);
  expect(arrows).toHaveLength(3);
  expect([columns, rows]).toEqual([3, 2]);
  expect(spots.find((it) => it.key === "view")?.name).toBe("View");
});

it("two lists are told apart", () => {
  expect(apart(["a", "b"], ["b", "c"])).toEqual([["a"], ["b"], ["c"]]);
});
