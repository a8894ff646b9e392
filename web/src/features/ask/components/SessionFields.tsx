import { momentInWords } from "@/entities/access/model";
import { Combobox } from "@/shared/ui/Combobox";
import { InlinePicker } from "@/shared/ui/InlinePicker";
import { WhenPicker } from "./WhenPicker";

interface WhenProps {
  label?: string;
  at: string;
  onChoose: (at: string) => void;
}

/** The date of a question: "today" or "on 1 Feb 2026, 09:00 UTC". */
export function WhenField({ label = "When", at, onChoose }: WhenProps) {
  return (
    <>
      {at && "on "}
      <InlinePicker
        label={label}
        value={momentInWords(at)}
        picker={(close) => (
          <WhenPicker
            at={at}
            onChoose={(it) => {
              onChoose(it);
              close();
            }}
          />
        )}
      />
    </>
  );
}

interface FactorProps {
  factor: boolean;
  note?: string | undefined;
  onChoose: (factor: boolean) => void;
}

/** Whether the person is signed in with a second factor. */
export function FactorField({ factor, note, onChoose }: FactorProps) {
  return (
    <InlinePicker
      label="Second factor"
      value={factor ? "with a second factor" : "without a second factor"}
      picker={(close) => (
        <Combobox
          label="Signed in"
          value={factor ? "1" : "0"}
          options={[
            { value: "1", label: "with a second factor", note },
            { value: "0", label: "without a second factor" },
          ]}
          onChoose={(it) => {
            onChoose(it === "1");
            close();
          }}
        />
      )}
    />
  );
}
