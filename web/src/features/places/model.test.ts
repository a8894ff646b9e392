import { describe, expect, it } from "vitest";
import { cellEdit, cellKey, leftOut, nodesOf } from "./model";
import type { PlaceView } from "@/entities/place/queries";

const place = (key: string, children = 0) =>
  ({ key, name: key, type: "room", children }) as unknown as PlaceView;

describe("the tree", () => {
  const levels = new Map([
    ["root", { total: 2, places: [place("a", 1), place("b")] }],
    ["a", { total: 1, places: [place("a1")] }],
  ]);
  it("shows what is unfolded and was read", () => {
    expect(nodesOf("root", levels, new Set()).map((it) => it.place.key)).toEqual(["a", "b"]);
    const nodes = nodesOf("root", levels, new Set(["a", "b"]));
    expect(nodes.map((it) => [it.key, it.isLeaf, it.children.map((each) => each.key)])).toEqual([
      ["a", false, ["a1"]],
      ["b", true, []],
    ]);
  });
});

it("what could not be read is counted", () => {
  expect(leftOut(new Map([["root", { total: 5, places: [place("a")] }]]))).toBe(4);
});

describe("a cell", () => {
  it("is one assignment of one permission on one place", () => {
    expect(cellEdit("hall", "group:g", "enter", "deny", undefined)).toEqual({
      kind: "assignments",
      after: {
        key: cellKey("hall", "group:g", "enter"),
        subject: "group:g",
        gives: "permission:enter",
        effect: "deny",
        scope: [{ only: "hall" }],
      },
    });
  });
  it("turns, goes, and stays as it is", () => {
    const own = { key: "c", deny: false };
    expect(cellEdit("hall", "group:g", "enter", "deny", own)?.set).toEqual({ effect: "deny" });
    expect(cellEdit("hall", "group:g", "enter", "allow", own)).toBeUndefined();
    expect(cellEdit("hall", "group:g", "enter", "nothing", own)?.remove).toBe(true);
    expect(cellEdit("hall", "group:g", "enter", "nothing", undefined)).toBeUndefined();
  });
  it("has a key that a document takes", () => {
    expect(cellKey("account:sea", "person:noor", "a.b")).toMatch(/^[a-z0-9][a-z0-9._-]*$/);
  });
});
