import { useRef, useState, type ReactNode } from "react";
import { Select, type RefSelectProps } from "antd";
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
  /** Whether the search failed. */
  failed?: boolean;
  /** Above the search field, such as filters; using it gives the focus back to the search. */
  header?: ReactNode;
  footer?: ReactNode;
}

/** An open list with a search field, for the inside of an {@link InlinePicker}. */
export function Combobox(props: Props) {
  const { options, value, label, onType, onChoose, loading, failed, header, footer } = props;
  const [text, setText] = useState("");
  const select = useRef<RefSelectProps>(null);
  return (
    <div className={styles["combobox"]}>
      {header && (
        // eslint-disable-next-line jsx-a11y/no-static-element-interactions, jsx-a11y/click-events-have-key-events -- only hands the focus on
        <div className={styles["header"]} onClick={() => select.current?.focus()}>
          {header}
        </div>
      )}
      <Select<string | null, Option>
        ref={select}
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
        notFoundContent={
          loading
            ? "Searching…"
            : failed
              ? "The search failed. Type again, or reload the page."
              : "No matches. Type another part of the name."
        }
        listHeight={280}
        getPopupContainer={(trigger: HTMLElement) => trigger.parentElement ?? document.body}
        placement="bottomLeft"
        styles={{ popup: { root: { position: "static", boxShadow: "none" } } }}
      />
      {footer}
    </div>
  );
}
