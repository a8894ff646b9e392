import { useState } from "react";
import { NamePicker } from "@/entities/thing/NamePicker";
import { useThingName } from "@/entities/thing/ThingName";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { FILTER_OF, FILTERS, NONE, wordsOf, type FilterName } from "../filters";

interface PickerProps {
  name: FilterName;
  value?: string;
  /** The chosen value; empty to take the filter away. */
  onChoose: (value: string) => void;
}

/** Chooses what one filter asks for. */
function FilterPicker({ name, value, onChoose }: PickerProps) {
  const it = FILTER_OF[name];
  const away = value ? [{ value: "", label: "Remove this filter" }] : [];
  return "things" in it ? (
    <NamePicker
      label={it.label}
      kinds={[it.things]}
      value={value}
      fixed={[...away, { value: NONE, label: it.none }]}
      onChoose={(thing) => onChoose(thing.key)}
    />
  ) : (
    <Combobox
      label={it.label}
      value={value}
      options={[...away, ...it.choices]}
      onChoose={onChoose}
    />
  );
}

interface OneProps {
  name: FilterName;
  value: string;
  onChoose: (value: string) => void;
}

/** A filter that is set, as words of the sentence. */
function OneFilter({ name, value, onChoose }: OneProps) {
  const it = FILTER_OF[name];
  const thing = useThingName("things" in it ? it.things : "units", value === NONE ? "" : value);
  return (
    <InlinePicker
      label={it.label}
      value={wordsOf(name, value, thing)}
      picker={(close) => (
        <FilterPicker
          name={name}
          value={value}
          onChoose={(chosen) => {
            onChoose(chosen);
            close();
          }}
        />
      )}
    />
  );
}

interface Props {
  filters: Partial<Record<FilterName, string>>;
  onChange: (name: FilterName, value: string) => void;
}

/** Further filters of the list: those that are set, and a way to set another. */
export function MoreFilters({ filters, onChange }: Props) {
  const [adding, setAdding] = useState<FilterName>();
  const left = FILTERS.filter((it) => !filters[it]);
  return (
    <>
      {FILTERS.map((name) => {
        const value = filters[name];
        return (
          value && (
            <span key={name}>
              ,{" "}
              <OneFilter name={name} value={value} onChoose={(chosen) => onChange(name, chosen)} />
            </span>
          )
        );
      })}
      {left.length > 0 && (
        <>
          ,{" "}
          <InlinePicker
            label="Another filter"
            look="link"
            value="add a filter"
            picker={(close) =>
              adding ? (
                <FilterPicker
                  key={adding}
                  name={adding}
                  onChoose={(value) => {
                    onChange(adding, value);
                    setAdding(undefined);
                    close();
                  }}
                />
              ) : (
                <Combobox
                  label="Filter by"
                  options={left.map((it) => ({ value: it, label: FILTER_OF[it].label }))}
                  onChoose={(name) => setAdding(left.find((it) => it === name))}
                />
              )
            }
          />
        </>
      )}
    </>
  );
}
