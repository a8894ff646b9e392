import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Job = Schemas["Job"];

/** Whether a job is of a kind and was ordered so, and was not cancelled. */
export function isOrdered(job: Job, kind: string, order: object): boolean {
  return (
    job.kind === kind &&
    job.state !== "cancelled" &&
    Object.entries(order).every(
      ([name, value]) => JSON.stringify(job.details[name] ?? undefined) === JSON.stringify(value),
    )
  );
}

/** How often a page looks again while work runs, in milliseconds. */
const WHILE_RUNNING = 500;

export const isOver = (job: Job) => job.state !== "waiting" && job.state !== "running";

/** One's own long work, the newest first. */
export function useJobs(enabled = true) {
  return useQuery({
    queryKey: ["jobs"],
    queryFn: () => answerOf(api.GET("/api/jobs")),
    enabled,
    refetchInterval: (query) =>
      query.state.data?.jobs.some((it) => !isOver(it)) ? WHILE_RUNNING : false,
  });
}

/** One job, watched until it is over. */
export function useJob(id: string | undefined) {
  return useQuery({
    queryKey: ["job", id],
    queryFn: () => answerOf(api.GET("/api/jobs/{id}", { params: { path: { id: id ?? "" } } })),
    enabled: id !== undefined,
    refetchInterval: (query) =>
      query.state.data && !isOver(query.state.data) ? WHILE_RUNNING : false,
  });
}

/** Cancels a job that runs; forgets one that is over. */
export function useCancelJob() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (id: string) =>
      answerOf(api.DELETE("/api/jobs/{id}", { params: { path: { id } } })),
    onSettled: (_data, _error, id) => {
      void queries.invalidateQueries({ queryKey: ["jobs"] });
      void queries.invalidateQueries({ queryKey: ["job", id] });
    },
  });
}

/** Where a job's result is fetched as a file. */
export const fileOf = (id: string) => `/api/jobs/${id}/file`;
