import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDraftAct } from "@/entities/draft/queries";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";

export type WatchOrder = Schemas["WatchOrder"];
export type WatchRuleView = Schemas["WatchRuleView"];
export type What = "persons" | "guests" | "invitations" | "services";

/** Whom a rule can watch, and what it does: for the sentence "… are suspended". */
const WATCHED: Record<What, { who: string; unseen: string; becomes: string }> = {
  persons: { who: "people", unseen: "not seen", becomes: "are suspended" },
  guests: { who: "guests", unseen: "not seen", becomes: "are guests no longer" },
  invitations: { who: "invited people", unseen: "who do not come", becomes: "are marked as left" },
  services: { who: "services", unseen: "not used", becomes: "are reported" },
};

/** The words of whom a rule watches. */
export function watchedBy(rule: WatchOrder) {
  return WATCHED[rule.what as What];
}

/** Whom one can have a rule watch. */
export const WATCHABLE = Object.entries(WATCHED).map(([value, it]) => ({ value, label: it.who }));

/** A rule to begin with. */
export function newWatchRule(account: string): WatchOrder {
  return {
    title: "Not seen for 90 days",
    what: "persons",
    account,
    warnAfter: 76,
    after: 90,
    most: 25,
  };
}

/** A rule for the members of a group; without one, for everybody. */
export function withGroup(rule: WatchOrder, group: string | undefined): WatchOrder {
  const next = { ...rule };
  delete next.group;
  return group ? { ...next, group } : next;
}

/** A rule that warns after so many days; without them, not at all. */
export function withWarning(rule: WatchOrder, warnAfter: number | undefined): WatchOrder {
  const next = { ...rule };
  delete next.warnAfter;
  return warnAfter ? { ...next, warnAfter } : next;
}

/** What a rule says, but for where. */
export function ruleInWords(rule: WatchOrder): string {
  const { who, unseen, becomes } = watchedBy(rule);
  const warned = rule.warnAfter ? `, warned after ${count(rule.warnAfter, "day")}` : "";
  return `${who} ${unseen} for ${count(rule.after, "day")} ${becomes}${warned}`;
}

/** What a rule did once, in words. */
export function doneInWords({ act, people }: Schemas["WatchActView"]): string {
  if (act === "warned") return `warned ${count(people, "person", "people")}`;
  if (act === "reported") return `reported ${count(people, "service")}`;
  return `acted on ${count(people, "person", "people")}`;
}

const KEY = ["watch-rules"];

/** The rules of accounts in which the viewer may manage people. */
export function useWatchRules() {
  return useQuery({ queryKey: KEY, queryFn: () => answerOf(api.GET("/api/watch-rules")) });
}

/** What a rule would do today. */
export function useWatchPreview(rule: WatchOrder) {
  return useQuery({
    queryKey: [...KEY, "preview", rule],
    queryFn: ({ signal }) => answerOf(api.POST("/api/watch-rules/preview", { body: rule, signal })),
    placeholderData: keepPreviousData,
    retry: false,
  });
}

const at = (rule: number) => ({ params: { path: { rule } } });

/** Makes a rule, or changes the one with a number. */
export function useKeepWatchRule(number: number | undefined) {
  return useDraftAct((body: WatchOrder) =>
    number === undefined
      ? answerOf(api.POST("/api/watch-rules", { body }))
      : answerOf(api.PUT("/api/watch-rules/{rule}", { ...at(number), body })),
  );
}

export function useEndWatchRule() {
  return useDraftAct((rule: number) => answerOf(api.DELETE("/api/watch-rules/{rule}", at(rule))));
}

/** Has a rule look now. */
export function useLookNow() {
  return useDraftAct((rule: number) =>
    answerOf(api.POST("/api/watch-rules/{rule}/look", at(rule))),
  );
}
