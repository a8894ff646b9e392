import { useDeferredValue, useState } from "react";
import { AutoComplete, Input } from "antd";
import { useQueries } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { useAccount } from "@/entities/account/queries";
import { questionIn } from "./questionParser";
import styles from "./Search.module.css";
import { answerTyped, FEW, SOURCES } from "./search";

/** Begins the value of every option, so that a chosen one is not taken for typed text. */
const OPTION = "\u0001";

/** Finds anything by name, and takes a whole question as a sentence. */
export function Search() {
  const [text, setText] = useState("");
  const [open, setOpen] = useState(false);
  const [failure, setFailure] = useState("");
  const navigate = useNavigate();
  const [account] = useAccount();
  const typed = useDeferredValue(text.trim());
  const asked = questionIn(typed);
  const answers = useQueries({
    queries: SOURCES.map((it) => ({
      queryKey: ["search", it.label, typed, account?.key],
      queryFn: () => it.find(typed, account?.key),
      enabled: open && typed !== "" && !asked,
      retry: false,
    })),
  });
  const failed = answers.some((it) => it.isError);
  const searching = answers.some((it) => it.isFetching);
  const groups = asked
    ? [
        {
          label: "Ask this question",
          options: [{ value: OPTION, name: typed, note: "ask this", page: "" }],
        },
      ]
    : SOURCES.flatMap((it, at) => {
        const found = (answers[at]?.data ?? []).slice(0, FEW);
        return found.length === 0
          ? []
          : [
              {
                label: it.label,
                options: found.map((one) => ({ ...one, value: `${OPTION}${it.label} ${one.key}` })),
              },
            ];
      });

  function go(page: string) {
    setOpen(false);
    setText("");
    void navigate(page);
  }

  async function choose(page: string) {
    if (!asked) {
      go(page);
      return;
    }
    try {
      const answer = await answerTyped(asked, account?.key);
      if (answer.page) go(answer.page);
      else
        setFailure(
          `No one and nothing you can ask about is called “${answer.unknown ?? ""}”. Check the name.`,
        );
    } catch {
      setFailure("The search failed. Check your connection and try again.");
    }
  }

  const note = failed
    ? "Part of the search failed. Type again, or reload the page."
    : groups.length > 0
      ? ""
      : searching
        ? "Searching…"
        : "No matches. Try another part of the name.";
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
        options={groups}
        optionRender={({ data }) => (
          <>
            {(data as { name?: string }).name} <small>{(data as { note?: string }).note}</small>
          </>
        )}
        popupMatchSelectWidth={380}
        listHeight={420}
        notFoundContent={<span role="status">{note}</span>}
        popupRender={(menu) => (
          <>
            {menu}
            {note !== "" && groups.length > 0 && (
              <p className={styles["note"]} role="alert">
                {note}
              </p>
            )}
          </>
        )}
        onChange={(value: string | null) => {
          setFailure("");
          if (!value?.startsWith(OPTION)) setText(value ?? "");
        }}
        onSelect={(_, option) => {
          void choose((option as { page?: string }).page ?? "");
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
      {failure && (
        <p className={styles["failure"]} role="alert">
          {failure}
        </p>
      )}
    </div>
  );
}
