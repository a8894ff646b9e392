import { expect, it } from "vitest";
import { balance, byKind, byRule } from "./model";
import type { ChangeView } from "@/entities/draft/queries";

it("changes stand under their kind, in the order in which kinds first come", () => {
  const change = (kindName: string, key: string) => ({ kindName, key }) as unknown as ChangeView;
  const parts = byKind([change("group", "a"), change("role", "b"), change("group", "c")]);
  expect(parts.map(([kind, all]) => [kind, all.map((it) => it.key)])).toEqual([
    ["group", ["a", "c"]],
    ["role", ["b"]],
  ]);
});

it("a balance is said in words", () => {
  expect(balance(1, 0)).toBe("gains 1 right");
  expect(balance(1204, 2)).toBe("gains 1,204 rights, loses 2 rights");
  expect(balance(0, 0, 3)).toBe("keeps 3 rights by another route");
  expect(balance(0, 0)).toBe("keeps the same access");
});

it("findings of one rule are told together", () => {
  const finding = (key: string, said: string) => ({ kind: "prerequisite", key, name: key, said });
  const told = byRule(["a", "b", "c", "d", "e"].map((who) => finding("lead", who)));
  expect(told).toEqual([
    {
      key: "prerequisite lead",
      name: "lead",
      kind: "prerequisite",
      said: ["a", "b", "c"],
      more: 2,
    },
  ]);
});
