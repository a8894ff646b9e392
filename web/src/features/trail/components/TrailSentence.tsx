import { Input } from "antd";
import { PlacePicker } from "@/entities/place/PlacePicker";
import { ThingName } from "@/entities/thing/ThingName";
import { ThingPicker } from "@/entities/thing/ThingPicker";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { ACTS } from "../model";
import styles from "./TrailSentence.module.css";

interface Props {
  params: URLSearchParams;
  typed: string;
  onType: (text: string) => void;
  onChange: (changes: Record<string, string>) => void;
}

const ANYTHING = "anything";

/** The filter of the trail as a sentence. */
export function TrailSentence({ params, typed, onType, onChange }: Props) {
  const who = params.get("who");
  const act = params.get("act") ?? "";
  const place = params.get("place");
  return (
    <Sentence>
      What has{" "}
      <InlinePicker
        label="Who"
        value={who ? <ThingName kind="principals" reference={who} /> : "anyone"}
        picker={(close) => (
          <ThingPicker
            kind="principals"
            label="Person or service"
            onChoose={(it) => {
              onChange({ who: it });
              close();
            }}
          />
        )}
      />{" "}
      <InlinePicker
        label="Act"
        value={ACTS.find((it) => it.value === act)?.label ?? "done"}
        picker={(close) => (
          <Combobox
            label="Act"
            value={act || ANYTHING}
            options={[{ value: ANYTHING, label: "done" }, ...ACTS]}
            onChoose={(it) => {
              onChange({ act: it === ANYTHING ? "" : it });
              close();
            }}
          />
        )}
      />{" "}
      in{" "}
      <InlinePicker
        label="Place"
        value={place ? <ThingName kind="resources" reference={place} /> : "any place"}
        picker={(close) => (
          <PlacePicker
            label="Place"
            onChoose={(it) => {
              onChange({ place: it });
              close();
            }}
          />
        )}
      />
      ,{" "}
      <Keep>
        mentioning{" "}
        <Input
          variant="borderless"
          className={styles["text"]}
          aria-label="Words in the record"
          placeholder="anything"
          value={typed}
          onChange={(event) => onType(event.target.value)}
        />
      </Keep>
    </Sentence>
  );
}
