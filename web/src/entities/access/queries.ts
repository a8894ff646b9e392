import {
  keepPreviousData,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import type { EscalationAsked, DifferAsked, Question, Region, WhoAsked } from "./model";

export type RemedyView = Schemas["WayView"];
export type WhoAnswer = Schemas["WhoAnswer"];
export type EscalationAnswer = Schemas["EscalationAnswer"];
export type EscalatorsAnswer = Schemas["EscalatorsAnswer"];
export type DifferenceAnswer = Schemas["DifferenceAnswer"];

function session(question: Question) {
  return {
    principal: question.who,
    secondFactor: question.factor,
    ...(question.at && { at: question.at }),
    ...(question.actingFor && { actingFor: question.actingFor }),
    ...(question.on?.length && { on: question.on }),
    ...(question.draft && { draft: question.draft }),
    ...(question.revision && { revision: Number(question.revision) }),
    ...(question.asActive && { asActive: true }),
  };
}

export function useAccess(question: Question, enabled: boolean) {
  return useQuery({
    queryKey: ["access", question],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/access", {
          params: {
            query: {
              ...session(question),
              ...(question.in && { in: question.in }),
              doors: question.doors,
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** The contents of these resources as far as they are loaded, and which of them failed. */
export function useInside(question: Question, resources: string[]) {
  return useQueries({
    queries: resources.map((resource) => ({
      queryKey: ["inside", question, resource],
      queryFn: () =>
        answerOf(
          api.GET("/api/ask/inside", {
            params: {
              query: {
                ...session(question),
                ...(question.in && { in: question.in }),
                resource,
              },
            },
          }),
        ),
    })),
    combine: (answers) => ({
      inside: new Map(
        answers.flatMap((it, i): [string, Region[]][] =>
          it.data ? [[resources[i] ?? "", it.data]] : [],
        ),
      ),
      failed: new Set(answers.flatMap((it, i) => (it.isError ? [resources[i] ?? ""] : []))),
    }),
  });
}

export function useRoutes(
  question: Question,
  permission: string,
  resource: string,
  enabled = true,
) {
  return useQuery({
    enabled,
    queryKey: ["routes", question, permission, resource],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/routes", {
          params: { query: { ...session(question), permission, resource } },
        }),
      ),
  });
}

/** How to grant it, or how to remove it. */
export function useRemedies(question: Question, permission: string, resource: string) {
  const asked = session({ ...question, revision: "" }); // a past revision cannot be changed
  return useQuery({
    queryKey: ["remedies", question, permission, resource],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/remedies", { params: { query: { ...asked, permission, resource } } }),
      ),
  });
}

/** Who can do this there. */
export function useWho(asked: WhoAsked, enabled: boolean) {
  const { permission, ...rest } = asked;
  return useQuery({
    queryKey: ["who-can", asked],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/who", {
          params: { query: { ...rest, ...(permission && { permission: [permission] }) } },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** How one person could grant it to themselves. */
export function useEscalation(asked: EscalationAsked, enabled: boolean) {
  const { who = "", permission = "", on = "", at, changes } = asked;
  return useQuery({
    queryKey: ["escalation", asked],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/escalation", {
          params: {
            query: {
              principal: who,
              permission,
              resource: on,
              ...(at && { at }),
              ...(changes && { changes: Number(changes) }),
            },
          },
        }),
      ),
    enabled,
  });
}

/** Begins the search for everyone who could get an access; a job that is watched. */
export function useBeginEscalators() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ permission = "", on = "", at, changes }: EscalationAsked) =>
      answerOf(
        api.POST("/api/ask/escalation/everyone", {
          body: {
            permission,
            resource: on,
            ...(at && { at }),
            ...(changes && { changes: Number(changes) }),
          },
        }),
      ),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

/** Everyone who could get an access: the answer of a job that is done. */
export function useEscalators(job: string | undefined) {
  return useQuery({
    queryKey: ["escalators", job],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/escalation/everyone/{job}", { params: { path: { job: job ?? "" } } }),
      ),
    enabled: job !== undefined,
  });
}

/** How two accesses differ. */
export function useDifference(asked: DifferAsked, enabled: boolean) {
  const { revision, otherRevision, ...rest } = asked;
  return useQuery({
    queryKey: ["difference", asked],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/difference", {
          params: {
            query: {
              ...rest,
              ...(revision && { revision: Number(revision) }),
              ...(otherRevision && { otherRevision: Number(otherRevision) }),
            },
          },
        }),
      ),
    placeholderData: keepPreviousData,
    enabled,
  });
}
