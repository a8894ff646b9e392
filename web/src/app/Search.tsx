import { useDeferredValue, useState } from "react";
import { AutoComplete, Input } from "antd";
import { useQueries, useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { useAccount, useAccountNames } from "@/entities/account/queries";
import { pageOf as pageOfThing } from "@/entities/thing/pages";
import { findPickable, noteOf } from "@/entities/thing/pickable";
import { listed } from "@/shared/lib/words";
import { mayBeQuestion, pageOf, sentenceOf, type Typed } from "./questionParser";
import styles from "./Search.module.css";
import { FEW, readQuestion, SOURCES } from "./search";

/** Begins the value of every option, so that a chosen one is not taken for typed text. */
const OPTION = "\u0001";

/** Finds anything by name, and takes a whole question in any wording. */
export function Search() {
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  const [account] = useAccount();
  const accountName = useAccountNames();
  const typed = useDeferredValue(text.trim());
  const answers = useQueries({
    queries: SOURCES.map((it) => ({
      queryKey: ["things", "pick", it.kind, typed, account?.key],
      queryFn: () => findPickable({ kind: it.kind, text: typed, account: account?.key }),
      enabled: open && typed !== "",
      retry: false,
    })),
  });
  const groups = SOURCES.flatMap((it, at) => {
    const found = (answers[at]?.data ?? []).slice(0, FEW);
    const options = found.map((one) => ({
      value: `${OPTION}${one.kind} ${one.key}`,
      name: one.name,
      note: noteOf(one, accountName),
      page: pageOfThing(it.page ?? one.kind, one.key) ?? "",
    }));
    return options.length === 0 ? [] : [{ label: it.label, options }];
  });
  const searching = answers.some((it) => it.isFetching);
  const nothing = groups.length === 0 && !searching;
  const question = useQuery({
    queryKey: ["typed", typed, account?.key],
    queryFn: () => readQuestion(typed, account?.key),
    enabled: open && typed !== "" && (mayBeQuestion(typed) || nothing),
    retry: false,
  });
  const understood = question.data?.form ? question.data : undefined;
  const shown = [
    ...(understood && (understood.asked || nothing)
      ? [
          {
            label: understood.asked ? "Ask this" : "Ask instead",
            options: [{ ...optionOf(understood), value: `${OPTION}question` }],
          },
        ]
      : []),
    ...groups,
  ];
  const failed = answers.some((it) => it.isError) || question.isError;
  const note = failed
    ? "Part of the search failed. Type again, or reload the page."
    : shown.length > 0
      ? ""
      : searching || question.isFetching
        ? "Searching…"
        : "No matches. Try another part of the name, or ask: who can …, why can’t …";
  return (
    <div className={styles["search"]} role="search">
      <AutoComplete
        id="search"
        aria-label="Find anything, or ask"
        className={styles["field"] ?? ""}
        value={text}
        open={open && typed !== ""}
        onOpenChange={setOpen}
        defaultActiveFirstOption
        showSearch={{ filterOption: false }} // the server has filtered
        options={shown}
        optionRender={({ data }) => (
          <>
            {(data as { name?: string }).name} <small>{(data as { note?: string }).note}</small>
          </>
        )}
        popupMatchSelectWidth={420}
        listHeight={420}
        notFoundContent={<span role="status">{note}</span>}
        popupRender={(menu) => (
          <>
            {menu}
            {note !== "" && shown.length > 0 && (
              <p className={styles["note"]} role="alert">
                {note}
              </p>
            )}
          </>
        )}
        onChange={(value: string | null) => {
          if (!value?.startsWith(OPTION)) setText(value ?? "");
        }}
        onSelect={(_, option) => {
          setOpen(false);
          setText("");
          void navigate((option as { page?: string }).page ?? "");
        }}
        onInputKeyDown={(event) => {
          if (event.key === "Escape") event.currentTarget.blur();
        }}
      >
        <Input
          variant="underlined"
          placeholder="Find anything, or ask"
          suffix={<kbd aria-hidden="true">/</kbd>}
        />
      </AutoComplete>
    </div>
  );
}

/** What was understood of a question, and which words were not. */
function optionOf(it: Typed): { name: string; note: string; page: string } {
  return {
    name: sentenceOf(it),
    note:
      it.unknown.length > 0
        ? `not understood: ${listed(it.unknown.map((word) => `“${word}”`))}`
        : "",
    page: pageOf(it),
  };
}
