import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDraftAct } from "@/entities/draft/queries";
import { answerOf, api, type Schemas } from "@/shared/api/client";
import { count } from "@/shared/lib/words";

export type PersonnelOrder = Schemas["PersonnelOrder"];
export type PersonnelSource = Schemas["PersonnelSourceView"];
export type PersonnelTaken = Schemas["PersonnelTakenView"];
export type PersonnelPreview = Schemas["PersonnelPreview"];

/** A list to begin with. */
export function newPersonnelList(account: string): PersonnelOrder {
  return {
    title: "Staff",
    account,
    columns: {},
    missing: "leave",
    most: 5,
    does: "proposes",
  };
}

/** A list whose file lies in the folder; without a name, one that is given by hand. */
export function withFile(order: PersonnelOrder, file: string | undefined): PersonnelOrder {
  const next = { ...order };
  delete next.file;
  return file === undefined ? next : { ...next, file };
}

/** What a list does, but for where. */
export function orderInWords({ missing, most, file, does }: PersonnelOrder): string {
  const leave =
    missing === "leave" ? `who is missing leaves, stops above ${most} %` : "nobody leaves by it";
  return `${file ? `${file}, ${does === "applies" ? "applied" : "proposed"}` : "by hand"} · ${leave}`;
}

/** How many people a list has join, change, come back and leave. */
export function numbersInWords(it: {
  joins: number;
  changes: number;
  returns: number;
  leaves: number;
}): string {
  const some = [
    it.leaves > 0 && count(it.leaves, "leaves", "leave"),
    it.returns > 0 && count(it.returns, "comes back", "come back"),
    it.joins > 0 && count(it.joins, "joins", "join"),
    it.changes > 0 && count(it.changes, "changes", "change"),
  ].filter(Boolean);
  return some.length === 0 ? "nothing changes" : some.join(" · ");
}

const STATES: Record<PersonnelTaken["state"], string> = {
  stopped: "stopped",
  unreadable: "could not be read",
  proposed: "in a draft",
  waits: "waits",
  applied: "applied",
  nothing: "changed nothing",
  dismissed: "dismissed",
  declined: "not applied",
  discarded: "draft discarded",
};

/** What became of a list, in words. */
export function stateInWords({ state, heldUp }: PersonnelTaken): string {
  return heldUp ? `${STATES[state]}: ${heldUp}` : STATES[state];
}

const KEY = ["personnel"];

/** The lists of accounts in which the viewer may manage people. */
export function usePersonnelLists() {
  return useQuery({ queryKey: KEY, queryFn: () => answerOf(api.GET("/api/personnel")) });
}

/** What a list would do now. */
export function usePersonnelPreview(order: PersonnelOrder, list: string) {
  return useQuery({
    queryKey: [...KEY, "preview", order, list],
    queryFn: ({ signal }) =>
      answerOf(api.POST("/api/personnel/preview", { body: { order, list }, signal })),
    enabled: list.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
}

/** What a list that is stopped would do now. */
export function useStoppedList(source: number, list: number) {
  return useQuery({
    queryKey: [...KEY, source, list],
    queryFn: () =>
      answerOf(
        api.GET("/api/personnel/{source}/lists/{list}", { params: { path: { source, list } } }),
      ),
    retry: false,
  });
}

const at = (source: number) => ({ params: { path: { source } } });

/** Sets up a list, or changes the one with a number. */
export function useKeepPersonnelList(number: number | undefined) {
  return useDraftAct((body: PersonnelOrder) =>
    number === undefined
      ? answerOf(api.POST("/api/personnel", { body }))
      : answerOf(api.PUT("/api/personnel/{source}", { ...at(number), body })),
  );
}

export function useEndPersonnelList() {
  return useDraftAct((source: number) =>
    answerOf(api.DELETE("/api/personnel/{source}", at(source))),
  );
}

/** Looks for a new file in the folder now. */
export function useLookForFile() {
  return useDraftAct((source: number) =>
    answerOf(api.POST("/api/personnel/{source}/look", at(source))),
  );
}

/** Makes a draft from a list that is given by hand, with how many people leave by it. */
export function useGiveList() {
  return useDraftAct((it: { source: number; list: string; leaves: number }) =>
    answerOf(
      api.POST("/api/personnel/{source}/lists", {
        ...at(it.source),
        body: { list: it.list, leaves: it.leaves },
      }),
    ),
  );
}

/** Makes a draft from a list that is stopped, with how many people leave by it. */
export function useTakeAnyway() {
  return useDraftAct((it: { source: number; list: number; leaves: number }) =>
    answerOf(
      api.POST("/api/personnel/{source}/lists/{list}/take", {
        params: { path: { source: it.source, list: it.list } },
        body: { leaves: it.leaves },
      }),
    ),
  );
}

export function useDismissList() {
  return useDraftAct((it: { source: number; list: number }) =>
    answerOf(
      api.DELETE("/api/personnel/{source}/lists/{list}", {
        params: { path: { source: it.source, list: it.list } },
      }),
    ),
  );
}
