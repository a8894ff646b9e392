import { PlaceField } from "@/entities/place/PlaceField";
import { ThingName } from "@/entities/thing/ThingName";
import { ThingField } from "@/entities/thing/ThingField";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { SentenceInput } from "@/shared/ui/SentenceInput";
import { Keep, Sentence } from "@/shared/ui/Sentence";
import { ACTS } from "../model";

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
      <ThingField
        label="Who"
        value={who ? <ThingName kind="principals" reference={who} /> : "anyone"}
        search="Person or service"
        kind="principals"
        onChoose={(it) => onChange({ who: it })}
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
      <PlaceField
        label="Place"
        value={place ? <ThingName kind="resources" reference={place} /> : "any place"}
        onChoose={(it) => onChange({ place: it })}
      />
      ,{" "}
      <Keep>
        mentioning <SentenceInput label="Words in the record" value={typed} onChange={onType} />
      </Keep>
    </Sentence>
  );
}
