import { useMutation, useQuery } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

/** The secret of the first owner's second factor; the link's token is needed. */
export function useWelcome(token: string) {
  return useQuery({
    queryKey: ["welcome", token],
    queryFn: () => answerOf(api.GET("/api/welcome", { params: { query: { token } } })),
    staleTime: Infinity,
    retry: false,
  });
}

/** Creates the first account and its owner, then opens the sign-in page. */
export function useCreateOwner() {
  return useMutation({
    mutationFn: async (body: Schemas["FirstOwner"]) => {
      await answerOf(api.GET("/api/session")); // sets the protection cookie
      await answerOf(api.POST("/api/welcome", { body }));
    },
    onSuccess: () => window.location.assign("/"),
  });
}
