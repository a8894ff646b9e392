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

export type JoinProof = Schemas["JoinProof"];

/** Sets the protection cookie: nobody is signed in here. */
const protect = () => answerOf(api.GET("/api/session"));

/** Whose link or first password it is. */
export function useLook(proof: JoinProof | undefined) {
  return useQuery({
    enabled: proof !== undefined,
    queryKey: ["join", proof],
    queryFn: async () => {
      await protect();
      return answerOf(api.POST("/api/join/look", { body: proof ?? {} }));
    },
    staleTime: Infinity,
    retry: false,
  });
}

/** Sets a password, once for each link. */
export function useJoin() {
  return useMutation({
    mutationFn: (body: Schemas["ChosenPassword"]) => answerOf(api.POST("/api/join", { body })),
  });
}

/** Asks for a link to choose a new password. */
export function useForgotten() {
  return useMutation({
    mutationFn: async (name: string) => {
      await protect();
      await answerOf(api.POST("/api/join/forgotten", { body: { name } }));
    },
  });
}
