import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { fileAddress } from "@/shared/lib/fileAddress";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type System = Schemas["SystemView"];
export type Terms = Schemas["TermsView"];
export type Trial = Schemas["TermsTrial"];
export type Discrepancy = Schemas["DiscrepancyRow"];
export type DiscrepancyList = Schemas["DiscrepancyList"];
export type Comparison = Schemas["ComparisonView"];

const KEY = "systems";

/** Kinds of discrepancies, in the order in which they matter. */
export const KINDS: { value: string; label: string; means: string }[] = [
  { value: "extra", label: "Extra", means: "The system holds it, and the model doesn't allow it." },
  { value: "missing", label: "Missing", means: "The model allows it; the system doesn't hold it." },
  { value: "different", label: "Different", means: "Both have it, in other places." },
  { value: "orphaned", label: "Orphaned account", means: "Its person left or isn't active." },
  { value: "unknown", label: "Unknown", means: "Nobody you can see has this identity." },
];

export const STATES: { value: string; label: string }[] = [
  { value: "", label: "New or in a draft" },
  { value: "accepted", label: "Accepted" },
  { value: "settled", label: "Settled" },
  { value: "any", label: "Any state" },
];

export const kindOf = (it: Discrepancy) =>
  KINDS.find(({ value }) => value === it.kind)?.label ?? it.kind;

/** The state of a discrepancy in words. */
export function stateOf(it: Discrepancy): string {
  if (it.state === "accepted") return "Accepted";
  if (it.state === "in-draft") return "In a draft";
  if (it.state === "settled") return "Settled";
  if (it.returned === "worse") return "More than accepted";
  return it.returned === "ended" ? "Acceptance ended" : "New";
}

/** Where the reasons of the model for a discrepancy are, if it is about a right. */
export function whyOf(it: Discrepancy): string | undefined {
  if (!it.who || !it.permission || !it.place) return undefined;
  const to = new URLSearchParams({
    who: it.who,
    permission: it.permission,
    on: it.place,
    factor: "1",
  });
  return `/ask/why?${to.toString()}`;
}

/** Whether a change of the model can settle it: an identity is settled in the system. */
export const isOfModel = (it: Discrepancy) => it.permission !== undefined;

export function useSystems() {
  return useQuery({ queryKey: [KEY], queryFn: () => answerOf(api.GET("/api/systems")) });
}

export interface DiscrepancyFilter {
  kind?: string | undefined;
  state?: string | undefined;
  text?: string | undefined;
}

/** How many discrepancies one call brings. */
const PAGE = 500;

/** Where a system differs. */
export function useDiscrepancies(system: string, filter: DiscrepancyFilter) {
  return useQuery({
    queryKey: [KEY, system, filter],
    queryFn: ({ signal }) =>
      answerOf(
        api.GET("/api/systems/{system}/discrepancies", {
          params: { path: { system }, query: { ...filter, most: PAGE } },
          signal,
        }),
      ),
  });
}

function useSystemAct<T, R>(act: (it: T) => Promise<R>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSettled: () => queries.invalidateQueries({ queryKey: [KEY] }),
  });
}

export function useKeepSystem() {
  return useSystemAct(({ key, ...body }: Schemas["SystemOrder"] & { key: string }) =>
    answerOf(api.PUT("/api/systems/{system}", { params: { path: { system: key } }, body })),
  );
}

export function useRemoveSystem() {
  return useSystemAct((system: string) =>
    answerOf(api.DELETE("/api/systems/{system}", { params: { path: { system } } })),
  );
}

/** What sends a table as it is. */
const csv = (table: string) => ({
  body: table as never,
  bodySerializer: () => table,
  headers: { "Content-Type": "text/csv" },
});

/** Adds a version of a system's terms. */
export function useAddTerms(system: string) {
  return useSystemAct(async (file: File) => {
    const table = await file.text();
    return answerOf(
      api.POST("/api/systems/{system}/terms", {
        params: { path: { system } },
        ...csv(table),
      }),
    );
  });
}

/** Tries a version on a sample. */
export function useTryTerms(system: string) {
  return useSystemAct(async ({ version, file }: { version: number; file: File }) => {
    const table = await file.text();
    return answerOf(
      api.POST("/api/systems/{system}/terms/{version}/trial", {
        params: { path: { system, version } },
        ...csv(table),
      }),
    );
  });
}

export function useUseTerms(system: string) {
  return useSystemAct((version: number) =>
    answerOf(
      api.POST("/api/systems/{system}/terms/{version}/force", {
        params: { path: { system, version } },
      }),
    ),
  );
}

/** Begins to compare: a table that comes in, or the newest one again. */
export function useCompare(system: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (file: File | undefined) => {
      const table = file ? await file.text() : "";
      return answerOf(
        api.POST("/api/systems/{system}/comparisons", {
          params: { path: { system } },
          ...csv(table),
        }),
      );
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

export function useAcceptDiscrepancies(system: string) {
  return useSystemAct((body: Schemas["DiscrepancyAcceptance"]) =>
    answerOf(api.POST("/api/systems/{system}/accept", { params: { path: { system } }, body })),
  );
}

export function useReopenDiscrepancies(system: string) {
  return useSystemAct((ids: string[]) =>
    answerOf(
      api.POST("/api/systems/{system}/reopen", { params: { path: { system } }, body: { ids } }),
    ),
  );
}

/** Where a version of the terms is fetched as a file. */
export const termsFile = (system: string, version: number) =>
  `/api/systems/${encodeURIComponent(system)}/terms/${version}`;

/** Where differences are fetched as a file. */
export const discrepancyFile = (system: string, filter: DiscrepancyFilter, format: string) =>
  fileAddress(
    `/api/systems/${encodeURIComponent(system)}/discrepancies/file`,
    { ...filter },
    format,
  );
