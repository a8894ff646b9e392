import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import type { Edit } from "@/shared/lib/thing";
import { destinationOf } from "./destination";

export type DraftView = Schemas["DraftView"];
export type ChangeView = Schemas["ChangeView"];
export type ImpactView = Schemas["ImpactView"];
export type OpenDraft = Schemas["OpenDraft"];

const path = (id: string) => ({ params: { path: { id } } });

/** The open draft in short; polled until its impact is known. */
export function useOpenDraft() {
  return useQuery({
    queryKey: ["draft-open"],
    queryFn: () => answerOf(api.GET("/api/drafts/open/summary")),
    refetchInterval: (query) => {
      const open = query.state.data;
      const waiting = open?.draft && open.draft.size > 0 && open.faults === 0 && !open.impact;
      return waiting ? 1_000 : 30_000;
    },
  });
}

export function useDrafts(enabled = true) {
  return useQuery({
    enabled,
    queryKey: ["drafts"],
    queryFn: ({ signal }) => answerOf(api.GET("/api/drafts", { signal })),
    refetchInterval: (query) => ((query.state.data?.judging ?? 0) > 0 ? 2_000 : false),
  });
}

export function useDraft(id: string) {
  return useQuery({
    queryKey: ["draft", id],
    queryFn: ({ signal }) => answerOf(api.GET("/api/drafts/{id}", { ...path(id), signal })),
    refetchInterval: (query) => (query.state.data?.judging ? 2_000 : false),
  });
}

/** What the draft does; polled until it is computed. */
export function useImpact(id: string, content: string, revision: number) {
  return useQuery({
    queryKey: ["impact", id, content, revision],
    queryFn: () => answerOf(api.GET("/api/drafts/{id}/impact", path(id))),
    refetchInterval: (query) => {
      const state = query.state.data?.state;
      return state === "running" ? 300 : state === "failed" ? 6_000 : false;
    },
    placeholderData: keepPreviousData,
  });
}

export function usePersonImpact(id: string, person: string, content: string) {
  return useQuery({
    queryKey: ["impact-on", id, person, content],
    queryFn: () =>
      answerOf(api.GET("/api/drafts/{id}/impact/{person}", { params: { path: { id, person } } })),
  });
}

/** Reloads everything that shows the model with the open draft applied. */
function useInvalidateModel() {
  const queries = useQueryClient();
  return (open?: OpenDraft) => {
    if (open) queries.setQueryData(["draft-open"], open);
    return queries.invalidateQueries({
      predicate: (it) => it.queryKey[0] !== "session" && !(open && it.queryKey[0] === "draft-open"),
    });
  };
}

/** The key that the server gave to the new thing of a kind. */
export function madeIn(open: OpenDraft, kind: string): string | undefined {
  return open.made.find((it) => it.kind === kind)?.key;
}

/**
 * Adds edits to the active draft, all or none; asks first where that draft may be about something
 * else.
 */
export function useEdit() {
  const queries = useQueryClient();
  const invalidate = useInvalidateModel();
  return useMutation({
    mutationFn: async (edits: Edit[]) => {
      const into = await destinationOf(queries.getQueryData<OpenDraft>(["draft-open"])?.draft);
      const body = { edits, ...(into !== undefined && { into }) };
      return answerOf(api.POST("/api/drafts/open/edits", { body }));
    },
    onSuccess: (open) => void invalidate(open),
  });
}

/** An act that changes a draft, or the model: what shows either is loaded again. */
export function useDraftAct<T, R>(act: (it: T) => Promise<R>) {
  const invalidate = useInvalidateModel();
  return useMutation({ mutationFn: act, onSettled: () => invalidate() });
}

export function useHandle(id: string) {
  return useDraftAct((body: Schemas["Handling"]) =>
    answerOf(api.PATCH("/api/drafts/{id}", { ...path(id), body })),
  );
}

/** Begins a draft of what was proposed by a trim; it becomes the active one. */
export function useTakeTrim(job: string) {
  return useDraftAct((choice: Schemas["TrimChoice"]) =>
    answerOf(
      api.POST("/api/excess/trims/{job}/draft", { params: { path: { job } }, body: choice }),
    ),
  );
}

/** Begins a draft of proposals by which nobody gains or loses anything. */
export function useTakeTidy(job: string) {
  return useDraftAct((steps: number[]) =>
    answerOf(api.POST("/api/tidy/{job}/draft", { params: { path: { job } }, body: { steps } })),
  );
}

/** Begins a draft after which the model says what a connected system holds. */
export function useAdopt(system: string) {
  return useDraftAct((ids: string[]) =>
    answerOf(
      api.POST("/api/systems/{system}/draft", { params: { path: { system } }, body: { ids } }),
    ),
  );
}

export function useDrop(id: string) {
  return useDraftAct((change: ChangeView) =>
    answerOf(
      api.POST("/api/drafts/{id}/drop", {
        ...path(id),
        body: {
          kind: change.kind,
          ...(change.key ? { key: change.key } : { thing: change.before ?? change.after }),
        },
      }),
    ),
  );
}

export function useRebase(id: string) {
  return useDraftAct((choices: Schemas["ClashChoice"][]) =>
    answerOf(api.POST("/api/drafts/{id}/rebase", { ...path(id), body: { choices } })),
  );
}

export function useComment(id: string) {
  return useDraftAct((said: string) =>
    answerOf(api.POST("/api/drafts/{id}/comments", { ...path(id), body: { said } })),
  );
}

export function useApprove(id: string) {
  return useDraftAct((content: string) =>
    answerOf(api.POST("/api/drafts/{id}/approval", { ...path(id), body: { content } })),
  );
}

/** Sends a draft to people who can approve it. */
export function useSend(id: string) {
  return useDraftAct((approvers: string[]) =>
    answerOf(api.POST("/api/drafts/{id}/requests", { ...path(id), body: { approvers } })),
  );
}

const request = (id: string, person: string) => ({ params: { path: { id, person } } });

export function useRemind(id: string) {
  return useDraftAct((person: string) =>
    answerOf(api.POST("/api/drafts/{id}/requests/{person}/reminder", request(id, person))),
  );
}

export function useUnsend(id: string) {
  return useDraftAct((person: string) =>
    answerOf(api.DELETE("/api/drafts/{id}/requests/{person}", request(id, person))),
  );
}

export function useDecline(id: string) {
  return useDraftAct((body: Schemas["Declining"]) =>
    answerOf(api.POST("/api/drafts/{id}/decline", { ...path(id), body })),
  );
}

/** Handles any of one's own drafts: makes it the active one, restores or discards it. */
export function useHandleAny() {
  return useDraftAct(({ id, ...body }: Schemas["Handling"] & { id: string }) =>
    answerOf(api.PATCH("/api/drafts/{id}", { ...path(id), body })),
  );
}

export function useCancelImpact(id: string) {
  return useMutation({
    mutationFn: () => answerOf(api.DELETE("/api/drafts/{id}/impact", path(id))),
  });
}

export function useApply(id: string) {
  const invalidate = useInvalidateModel();
  return useMutation({
    mutationFn: (body: Schemas["Application"]) =>
      answerOf(api.POST("/api/drafts/{id}/apply", { ...path(id), body })),
    onSuccess: () => void invalidate(),
  });
}

/** Has a draft applied by itself at a date. */
export function useDraftDate(id: string) {
  const invalidate = useInvalidateModel();
  return useMutation({
    mutationFn: (body: Schemas["DraftDate"]) =>
      answerOf(api.PUT("/api/drafts/{id}/date", { ...path(id), body })),
    onSuccess: () => void invalidate(),
  });
}

/** Takes the date of a draft back. */
export function useClearDraftDate(id: string) {
  const invalidate = useInvalidateModel();
  return useMutation({
    mutationFn: () => answerOf(api.DELETE("/api/drafts/{id}/date", path(id))),
    onSuccess: () => void invalidate(),
  });
}

export function useNewDraft() {
  return useDraftAct((name: string) => answerOf(api.POST("/api/drafts", { body: { name } })));
}

export function useRevert() {
  const invalidate = useInvalidateModel();
  return useMutation({
    mutationFn: ({ revision, only }: { revision: number; only?: number[] }) =>
      answerOf(
        api.POST("/api/drafts/taking-back/{revision}", {
          params: { path: { revision } },
          body: only ? { only } : {},
        }),
      ),
    onSuccess: () => void invalidate(),
  });
}
