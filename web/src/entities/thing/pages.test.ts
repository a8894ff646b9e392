import { expect, it } from "vitest";
import { pageOf, pageOfStep } from "./pages";

it("things that have a page lead to it", () => {
  expect(pageOf("roles", "a b")).toBe("/rights/roles/a%20b");
  expect(pageOf("units", "u")).toBe("/places?at=unit:u");
  expect(pageOf("guests", undefined)).toBeUndefined();
  expect(pageOf("assignments", "x")).toBeUndefined();
});

it("a step of a route leads to its thing, where it has a key", () => {
  expect(pageOfStep({ kind: "group", key: "guards" })).toBe("/groups/guards");
  expect(pageOfStep({ kind: "place", key: "hall" })).toBe("/places?at=hall");
  expect(pageOfStep({ kind: "person", key: "" })).toBeUndefined();
  expect(pageOfStep({ kind: "assignment", key: "a1" })).toBeUndefined();
});
