import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import { textOf, thingFrom, type Thing } from "@/shared/lib/thing";

export type DeclaredField = Schemas["DeclaredField"];

/** The fields that an account asks of its people and services. */
export function useDeclaredFields(account: string) {
  return useQuery({
    queryKey: ["accounts", account, "fields"],
    queryFn: () =>
      answerOf(api.GET("/api/accounts/{account}/fields", { params: { path: { account } } })),
    enabled: account !== "",
    retry: false,
  });
}

/** Declares the fields of an account in place of those before. */
export function useDeclareFields(account: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (fields: DeclaredField[]) =>
      answerOf(
        api.PUT("/api/accounts/{account}/fields", {
          params: { path: { account } },
          body: { fields },
        }),
      ),
    onSettled: () => client.invalidateQueries({ queryKey: ["accounts", account] }),
  });
}

/** Whether a thing of a kind must have a field. */
export function isRequired(field: DeclaredField, thing: Thing): boolean {
  return field.required.includes(thing["kind"] === "service" ? "service" : "person");
}

/** The labels of required fields that are blank. */
export function missingIn(fields: DeclaredField[], thing: Thing): string[] {
  const attributes = thingFrom(thing["attributes"]);
  return fields
    .filter((it) => isRequired(it, thing) && !textOf(attributes, it.key).trim())
    .map((it) => it.label);
}
