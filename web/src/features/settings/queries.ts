import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, Problem } from "../../api/client";

/** The largest document that the server reads, in bytes. */
export const LARGEST = 64 * 1024 * 1024;

/** Replaces the model by a document; what is too large is not even sent. */
export function useImport() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async ({ file, base, proof }: { file: File; base: number; proof: string }) => {
      if (file.size > LARGEST) {
        throw new Problem(
          413,
          "The document is too large",
          `${file.name} has ${Math.ceil(file.size / 1024 / 1024)} MiB; up to 64 MiB are read here. Nothing was changed.`,
        );
      }
      const document = await file.text();
      return answerOf(
        api.PUT("/api/model", {
          body: document as never,
          bodySerializer: () => document,
          params: { query: { base }, header: { "Mandala-Proof": proof } },
          headers: { "Content-Type": "application/json" },
        }),
      );
    },
    onSuccess: () => queries.invalidateQueries(),
  });
}

/** The newest revision that one may read: an import is over what one has seen. */
export function useNewestRevision() {
  return useQuery({
    queryKey: ["newest-revision"],
    queryFn: () => answerOf(api.GET("/api/revisions", { params: { query: { limit: 1 } } })),
  });
}

/** When root accounts ask for a second person. */
export function useApprovalRules() {
  return useQuery({
    queryKey: ["approval-rules"],
    queryFn: () => answerOf(api.GET("/api/settings/approval")),
  });
}

export function useSetApproval() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ account, people }: { account: string; people?: number }) =>
      answerOf(
        api.PUT("/api/settings/approval/{account}", {
          params: { path: { account } },
          body: people === undefined ? {} : { people },
        }),
      ),
    onSuccess: () => queries.invalidateQueries(),
  });
}
