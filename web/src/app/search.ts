import type { PickKind } from "@/entities/thing/pickable";
import { answerOf, api } from "@/shared/api/client";
import type { Typed } from "./questionParser";

/** The kinds of things that the search looks through, and those that `pageOf` calls otherwise. */
export const SOURCES: { kind: PickKind; label: string; page?: string }[] = [
  { kind: "askable", label: "People", page: "principals" },
  { kind: "groups", label: "Groups" },
  { kind: "roles", label: "Roles" },
  { kind: "permissionSets", label: "Permission sets" },
  { kind: "permissions", label: "Permissions" },
  { kind: "places", label: "Places", page: "resources" },
];

/** Results shown of each kind. */
export const FEW = 4;

/** Has the server read a text as a question. */
export function readQuestion(text: string, account: string | undefined): Promise<Typed> {
  const query = { text, ...(account && { account }) };
  return answerOf(api.GET("/api/ask/typed", { params: { query } }));
}
