import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Tidying = Schemas["TidyAnswer"];
export type TidyProposal = Schemas["TidyProposal"];

/** Begins to look for what can go while everyone's access stays the same. */
export function useBeginTidy() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (order: Schemas["TidyOrder"]) => answerOf(api.POST("/api/tidy", { body: order })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["jobs"] }),
  });
}

/** What was found by a job that is done. */
export function useTidying(job: string | undefined) {
  return useQuery({
    queryKey: ["tidy", job],
    queryFn: () => answerOf(api.GET("/api/tidy/{job}", { params: { path: { job: job ?? "" } } })),
    enabled: job !== undefined,
  });
}

/** Why something can go, in the words of the list. */
export const REASONS: Record<string, string> = {
  included: "Already included",
  covered: "Covered by another assignment",
  ended: "Ended",
  twin: "Same as another role",
  "no-effect": "Denies nothing",
  role: "One role for several assignments",
  group: "One group for several people",
};

/** A choice with all that it needs: what is needed comes earlier in the list. */
export function withNeeds(steps: TidyProposal[], chosen: number[]): number[] {
  const all = new Set(chosen);
  for (let i = steps.length - 1; i >= 0; i--) {
    if (all.has(i)) steps[i]?.needs.forEach((it) => all.add(it));
  }
  return [...all].sort((a, b) => a - b);
}

/** A choice without those of which something that they need is not chosen. */
export function withoutUnmet(steps: TidyProposal[], chosen: number[]): number[] {
  const left = new Set<number>();
  for (const it of [...chosen].sort((a, b) => a - b)) {
    if (steps[it]?.needs.every((needed) => left.has(needed))) left.add(it);
  }
  return [...left];
}

/** What is chosen after a click: more brings what it needs, less takes what needed it. */
export function chosenAfter(steps: TidyProposal[], before: number[], now: number[]): number[] {
  return now.every((it) => before.includes(it)) ? withoutUnmet(steps, now) : withNeeds(steps, now);
}
