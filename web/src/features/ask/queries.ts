import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { answerOf, api } from "../../api/client";
import type { Question } from "./model";

function session(question: Question) {
  return {
    principal: question.who,
    secondFactor: question.factor,
    ...(question.at && { at: question.at }),
    ...(question.actingFor && { actingFor: question.actingFor }),
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

export function useRoutes(question: Question, permission: string, resource: string) {
  return useQuery({
    queryKey: ["routes", question, permission, resource],
    queryFn: () =>
      answerOf(
        api.GET("/api/ask/routes", {
          params: { query: { ...session(question), permission, resource } },
        }),
      ),
  });
}
