import { useMutation } from "@tanstack/react-query";
import { answerOf, api } from "@/shared/api/client";

/** Starts an impersonated view on the server, which records it in the trail. */
export function useStartView(principal: string, onStarted: () => void) {
  return useMutation({
    mutationFn: () => answerOf(api.POST("/api/views", { body: { principal } })),
    onSuccess: onStarted,
  });
}
