import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import type { Thing } from "@/shared/lib/thing";

export type ThingView = Schemas["ThingView"];
export type AssignmentView = Schemas["AssignmentView"];

/** Every page shows the model with the viewer's open draft applied. */
export const DRAFT = "open";

interface Filter {
  account?: string;
  text?: string;
  limit?: number;
}

/** The things of one kind that the viewer may read. */
export function useThings(kind: string, filter: Filter = {}, enabled = true) {
  return useQuery({
    queryKey: ["things", kind, filter],
    queryFn: () =>
      answerOf(
        api.GET("/api/things/{kind}", {
          params: { path: { kind }, query: { ...filter, draft: DRAFT } },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled,
  });
}

export function useRolePage(key: string) {
  return useQuery({
    queryKey: ["rights", "role", key],
    queryFn: () =>
      answerOf(
        api.GET("/api/rights/roles/{key}", {
          params: { path: { key }, query: { draft: DRAFT } },
        }),
      ),
    enabled: key !== "",
  });
}

export function useRoleUses() {
  return useQuery({
    queryKey: ["rights", "uses"],
    queryFn: () => answerOf(api.GET("/api/rights/roles", { params: { query: { draft: DRAFT } } })),
  });
}

export function usePatternPage(key: string) {
  return useQuery({
    queryKey: ["rights", "pattern", key],
    queryFn: () =>
      answerOf(
        api.GET("/api/rights/patterns/{key}", {
          params: { path: { key }, query: { draft: DRAFT } },
        }),
      ),
  });
}

export function useGroupPage(key: string) {
  return useQuery({
    queryKey: ["rights", "group", key],
    queryFn: () =>
      answerOf(
        api.GET("/api/rights/groups/{key}", {
          params: { path: { key }, query: { draft: DRAFT } },
        }),
      ),
  });
}

export function usePersonPage(key: string) {
  return useQuery({
    queryKey: ["rights", "person", key],
    queryFn: () =>
      answerOf(
        api.GET("/api/rights/people/{key}", {
          params: { path: { key }, query: { draft: DRAFT } },
        }),
      ),
  });
}

/** What a scope covers now. */
export function useScope(scope: Thing[]) {
  return useQuery({
    queryKey: ["places", "scope", scope],
    queryFn: () =>
      answerOf(
        api.POST("/api/places/scope", {
          body: { scope, draft: DRAFT },
        }),
      ),
    placeholderData: keepPreviousData,
  });
}

/** Who matches a rule now. */
export function useRule(account: string, rule: Thing | undefined) {
  return useQuery({
    queryKey: ["places", "rule", account, rule],
    queryFn: () =>
      answerOf(
        api.POST("/api/places/rule", {
          body: { account, rule: rule ?? {}, draft: DRAFT },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled: rule !== undefined,
  });
}
