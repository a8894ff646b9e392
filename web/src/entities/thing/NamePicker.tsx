import { use, useDeferredValue, useState } from "react";
import { Segmented } from "antd";
import { useQueries } from "@tanstack/react-query";
import { useAccount, useAccountNames } from "@/entities/account/queries";
import { WhoContext } from "@/entities/session";
import { Combobox, type Option } from "@/shared/ui/Combobox";
import { findPickable, labelOf, merged, noteOf, type Pickable, type PickKind } from "./pickable";
import { noteRecent, recentOf } from "./recent";

interface Props {
  label: string;
  /** What can be chosen; several are searched at once, and can be narrowed to one. */
  kinds: PickKind[];
  /** The reference or key chosen now. */
  value?: string | undefined;
  /** References or keys that are not offered. */
  without?: string[] | undefined;
  /** Choices besides things, such as "Everyone signed in". */
  fixed?: Option[] | undefined;
  /** Offers only what the viewer may change. */
  changeable?: boolean | undefined;
  onChoose: (chosen: Pickable) => void;
}

const ALL = "All";
const RECENT = 5;

/**
 * The one search for a name: recent choices and those of one's own account come first, exact names
 * before others.
 */
export function NamePicker(props: Props) {
  const { label, kinds, value, without = [], fixed = [], changeable, onChoose } = props;
  const person = use(WhoContext)?.key ?? "";
  const [account] = useAccount();
  const [typed, setTyped] = useState("");
  const [only, setOnly] = useState(ALL);
  const text = useDeferredValue(typed);
  const wanted = only === ALL ? kinds : kinds.filter((it) => labelOf(it) === only);
  const answers = useQueries({
    queries: wanted.map((kind) => ({
      queryKey: ["things", "pick", kind, text, account?.key, changeable],
      queryFn: () => findPickable({ kind, text, account: account?.key, changeable }),
      placeholderData: (before: Pickable[] | undefined) =>
        before?.[0]?.kind === kind ? before : undefined,
    })),
  });
  const accountName = useAccountNames();
  const offered = (it: Pickable) => !without.includes(it.ref) && !without.includes(it.key);
  const found = merged(
    answers.map((it) => it.data ?? []),
    text,
  ).filter(offered);
  const recent =
    text === ""
      ? recentOf(person)
          .filter((it) => wanted.includes(it.kind) && offered(it))
          .slice(0, RECENT)
      : [];
  const isRecent = (it: Pickable) =>
    recent.some((other) => other.kind === it.kind && other.key === it.key);
  const shown = [...recent, ...found.filter((it) => !isRecent(it))];
  const special = only === ALL ? fixed.filter((it) => fits(it, text)) : [];
  const optionOf = (it: Pickable): Option => ({
    value: `${it.kind} ${it.ref}`,
    label: it.name,
    note: [
      isRecent(it) && "recent",
      kinds.length > 1 && one(labelOf(it.kind)),
      noteOf(it, accountName),
    ]
      .filter(Boolean)
      .join(", "),
  });
  const current = shown.find((it) => it.ref === value || it.key === value);
  return (
    <Combobox
      label={label}
      value={current && optionOf(current).value}
      loading={answers.some((it) => it.isFetching)}
      failed={answers.some((it) => it.isError)}
      onType={setTyped}
      header={
        kinds.length > 1 && (
          <Segmented
            size="small"
            aria-label="Kind"
            options={[ALL, ...kinds.map(labelOf)]}
            value={only}
            onChange={setOnly}
          />
        )
      }
      options={[...special, ...shown.map(optionOf)]}
      onChoose={(chosen) => {
        const it = shown.find((each) => optionOf(each).value === chosen);
        if (it) noteRecent(person, it);
        onChoose(
          it ?? {
            ref: chosen,
            key: chosen,
            kind: "fixed",
            name: fixed.find((each) => each.value === chosen)?.label ?? chosen,
          },
        );
      }}
    />
  );
}

function fits(option: Option, text: string): boolean {
  return option.label.toLowerCase().includes(text.trim().toLowerCase());
}

function one(label: string): string {
  return label === "People" ? "" : label.replace(/s$/, "").toLowerCase();
}
