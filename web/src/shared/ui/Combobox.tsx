import { useState, type ReactNode } from "react";
import { Select } from "antd";
import styles from "./Combobox.module.css";

export interface Option {
  value: string;
  label: string;
  note?: string | undefined;
  /** Level in a tree, 0 at the top. */
  depth?: number;
}

interface Props {
  options: Option[];
  value?: string | undefined;
  label: string;
  /** Searches on the server; without it, typing filters the options given. */
  onType?: (text: string) => void;
  onChoose: (value: string) => void;
  loading?: boolean;
  footer?: ReactNode;
}

/** An open list with a search field, for the inside of an {@link InlinePicker}. */
export function Combobox({ options, value, label, onType, onChoose, loading, footer }: Props) {
  const [text, setText] = useState("");
  return (
    <div className={styles["combobox"]}>
      <Select<string | null, Option>
        open
        autoFocus
        defaultActiveFirstOption
        className={styles["select"] ?? ""}
        aria-label={label}
        placeholder={label}
        suffix={null}
        value={null}
        showSearch={{
          searchValue: text,
          filterOption: onType
            ? false
            : (typed, option) =>
                `${option?.label ?? ""} ${option?.note ?? ""}`
                  .toLowerCase()
                  .includes(typed.trim().toLowerCase()),
          onSearch: (typed) => {
            setText(typed);
            onType?.(typed);
          },
        }}
        options={options}
        optionRender={({ data }) => (
          <span
            className={data.value === value ? styles["current"] : undefined}
            style={{ paddingInlineStart: 14 * (data.depth ?? 0) }}
          >
            {data.label}
            {data.note && <small> {data.note}</small>}
          </span>
        )}
        onSelect={(chosen) => chosen !== null && onChoose(chosen)}
        notFoundContent={loading ? "Searching…" : "No matches. Type another part of the name."}
        listHeight={280}
        getPopupContainer={(trigger: HTMLElement) => trigger.parentElement ?? document.body}
        placement="bottomLeft"
        styles={{ popup: { root: { position: "static", boxShadow: "none" } } }}
      />
      {footer}
    </div>
  );
}
