import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Excess = Schemas["ExcessAnswer"];
export type UnusedPermission = Schemas["UnusedPermission"];
export type UnusedRight = Schemas["UnusedRight"];
export type Trim = Schemas["TrimAnswer"];
export type TrimPoint = Schemas["TrimPoint"];
export type Study = Schemas["StudyAnswer"];

/** Whose use of their access, in the model with one's own draft. */
interface Asked {
  principal: string;
  /** Days of the window; those of the policy where absent. */
  days?: number | undefined;
}

interface Figure {
  /** The account of the figure. */
  in?: string;
  doors?: boolean;
}

/** What of somebody's access they use. */
export function useExcess({ principal, days }: Asked, figure: Figure, enabled = true) {
  return useQuery({
    queryKey: ["excess", principal, days, figure],
    queryFn: () =>
      answerOf(
        api.GET("/api/excess", {
          params: {
            query: {
              principal,
              draft: "open",
              ...(days && { days }),
              ...(figure.in && { in: figure.in }),
              doors: figure.doors ?? false,
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** Where somebody does not use a permission. */
export function useUnused({ principal, days }: Asked, permission: string) {
  return useQuery({
    queryKey: ["unused", principal, days, permission],
    queryFn: () =>
      answerOf(
        api.GET("/api/excess/rights", {
          params: { query: { principal, permission, draft: "open", ...(days && { days }) } },
        }),
      ),
  });
}

/** Begins to look for ways to trim the access of some people. */
export function useBeginTrim() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (order: Schemas["TrimOrder"]) =>
      answerOf(api.POST("/api/excess/trims", { body: order })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

/** Begins to work out what several people use of their access. */
export function useBeginStudy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (order: Schemas["StudyOrder"]) =>
      answerOf(api.POST("/api/excess/studies", { body: order })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

/** What several people use, worked out by a job that is done. */
export function useStudy(job: string | undefined) {
  return useQuery({
    queryKey: ["study", job],
    queryFn: () =>
      answerOf(api.GET("/api/excess/studies/{job}", { params: { path: { job: job ?? "" } } })),
    enabled: job !== undefined,
  });
}

/** The page about what the people of a reference use, such as `group:K`. */
export const pageOfUse = (...of: string[]) =>
  `/use?${of.map((it) => `of=${encodeURIComponent(it)}`).join("&")}`;

/** What was found by a job that is done. */
export function useTrim(job: string | undefined) {
  return useQuery({
    queryKey: ["trim", job],
    queryFn: () =>
      answerOf(api.GET("/api/excess/trims/{job}", { params: { path: { job: job ?? "" } } })),
    enabled: job !== undefined,
  });
}

/** A share in percent, as people read it. */
export function percent(part: number, of: number): string {
  if (of === 0 || part === 0) return "0 %";
  const share = (100 * part) / of;
  return share < 1 ? "under 1 %" : `${Math.round(share)} %`;
}
