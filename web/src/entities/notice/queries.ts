import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { answerOf, api, type Schemas } from "@/shared/api/client";

export type Notice = Schemas["NoticeView"];
export type Delivery = Schemas["NoticeChoice"]["delivery"];

/** How notices come, in words. */
export const DELIVERY: Record<Delivery, string> = {
  here: "Only here",
  digest: "In one mail a day",
  mail: "By mail at once",
};

/** How often the bell looks for news, in milliseconds. */
const EVERY = 30_000;

/** One's own notices, the newest first, and how many are unread. */
export function useNotices() {
  return useQuery({
    queryKey: ["notices"],
    queryFn: () => answerOf(api.GET("/api/notices")),
    refetchInterval: EVERY,
  });
}

/** Marks one notice as read, or it and all that are older. */
export function useReadNotices() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Schemas["Read"]) => answerOf(api.POST("/api/notices/read", { body })),
    onSuccess: (list) => queries.setQueryData(["notices"], list),
  });
}

/** How one's notices come. */
export function useNoticeChoices() {
  return useQuery({
    queryKey: ["notice-choices"],
    queryFn: () => answerOf(api.GET("/api/notices/choices")),
  });
}

export function useChooseNotice() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ kind, delivery }: { kind: string; delivery: Delivery }) =>
      answerOf(
        api.PUT("/api/notices/choices/{kind}", { params: { path: { kind } }, body: { delivery } }),
      ),
    onSuccess: (choices) => queries.setQueryData(["notice-choices"], choices),
  });
}

/** What an account demands of the notices of its people. */
export function useNoticeDemands(account: string) {
  return useQuery({
    queryKey: ["notice-demands", account],
    queryFn: () =>
      answerOf(api.GET("/api/notices/demands/{account}", { params: { path: { account } } })),
    enabled: account !== "",
  });
}

export function useDemandNotice(account: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ kind, delivery }: { kind: string; delivery: Delivery }) =>
      answerOf(
        api.PUT("/api/notices/demands/{account}/{kind}", {
          params: { path: { account, kind } },
          body: { delivery },
        }),
      ),
    onSettled: () => void queries.invalidateQueries({ queryKey: ["notice-demands", account] }),
  });
}
