import { expect, it } from "vitest";
import type { ThingView } from "@/entities/thing/queries";
import { permissionEdits } from "./components/OwnPermissions";

const role = (sets: string[]) =>
  ({
    key: "lead",
    name: "Loans lead",
    thing: { key: "lead", account: "q", sets },
  }) as unknown as ThingView;

it("a single permission makes a set for the role in passing, and later joins it", () => {
  expect(permissionEdits(role(["desk"]), "loan.ship")).toEqual([
    {
      kind: "permissionSets",
      after: { key: "lead-own", name: "Only in Loans lead", account: "q", allow: ["loan.ship"] },
    },
    { kind: "roles", key: "lead", add: { sets: ["lead-own"] } },
  ]);
  expect(permissionEdits(role(["lead-own"]), "loan.ship")).toEqual([
    { kind: "permissionSets", key: "lead-own", add: { allow: ["loan.ship"] } },
  ]);
});
