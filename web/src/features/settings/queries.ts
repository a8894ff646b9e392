import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, Problem, type Schemas } from "@/shared/api/client";

/** Largest document that the server reads, in bytes. */
export const LARGEST = 64 * 1024 * 1024;

/** Begins to replace the model by a document; one that is too large is not sent. */
export function useImport() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ file, base, proof }: { file: File; base: number; proof: string }) => {
      if (file.size > LARGEST) {
        throw new Problem(
          413,
          "The document is too large",
          `${file.name} has ${Math.ceil(file.size / 1024 / 1024)} MiB; the limit is 64 MiB. Nothing was changed. Split it, or ask your administrator to import it on the command line.`,
        );
      }
      const document = await file.text();
      return answerOf(
        api.PUT("/api/model", {
          body: document as never,
          bodySerializer: () => document, // as it was written: the server reads it as a whole
          params: { query: { base }, header: { "Mandala-Proof": proof } },
          headers: { "Content-Type": "application/json" },
        }),
      );
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

/** What an import did; everything is asked again, for all of it may be another now. */
export function useImported(job: string | undefined) {
  const queries = useQueryClient();
  return useQuery({
    enabled: job !== undefined,
    queryKey: ["imported", job],
    queryFn: async () => {
      const did = await answerOf(
        api.GET("/api/model/imports/{job}", { params: { path: { job: job ?? "" } } }),
      );
      await queries.invalidateQueries({ predicate: (it) => it.queryKey[0] !== "imported" });
      return did;
    },
    staleTime: Infinity,
  });
}

/** The newest revision that the viewer can read: an import replaces what they have seen. */
export function useNewestRevision() {
  return useQuery({
    queryKey: ["newest-revision"],
    queryFn: () => answerOf(api.GET("/api/revisions", { params: { query: { limit: 1 } } })),
  });
}

/** When each root account requires approval. */
export function useApprovalRules() {
  return useQuery({
    queryKey: ["approval-rules"],
    queryFn: () => answerOf(api.GET("/api/settings/approval")),
  });
}

export function useSetApproval() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ account, ...body }: Schemas["ApprovalLimit"] & { account: string }) =>
      answerOf(
        api.PUT("/api/settings/approval/{account}", {
          params: { path: { account } },
          body,
        }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  });
}

/** Mail that went out or stays in the outbox. */
export function useOutbox(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["outbox"],
    queryFn: () => answerOf(api.GET("/api/settings/mail")),
    refetchInterval: 10_000,
  });
}

/** How mail about each kind of notice reads, by an example. */
export function useLetters(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["letters"],
    queryFn: () => answerOf(api.GET("/api/notices/letters")),
    staleTime: Infinity,
  });
}

/** What recurs, when next, and how it went last. */
export function useSchedule(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["schedule"],
    queryFn: () => answerOf(api.GET("/api/settings/schedule")),
    refetchInterval: 30_000,
  });
}

/** The tokens of which one may know, and what one may make. */
export function useTokens(enabled: boolean) {
  return useQuery({
    enabled,
    queryKey: ["tokens"],
    queryFn: () => answerOf(api.GET("/api/settings/tokens")),
  });
}

export function useMakeToken() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["TokenOrder"]) =>
      answerOf(api.POST("/api/settings/tokens", { body })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["tokens"] }),
  });
}

export function useRevokeToken() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      answerOf(api.DELETE("/api/settings/tokens/{id}", { params: { path: { id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["tokens"] }),
  });
}
