import { Choose } from "../../../components/Choose";
import { Field } from "../../../components/Field";
import { momentInWords } from "../model";
import { WhenPicker } from "./WhenPicker";

interface WhenProps {
  at: string;
  onChoose: (at: string) => void;
}

/** When, as a word of a sentence. */
export function WhenField({ at, onChoose }: WhenProps) {
  return (
    <Field
      label="When"
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
  );
}

interface FactorProps {
  factor: boolean;
  /** What is to be said of signing in with one. */
  note?: string | undefined;
  onChoose: (factor: boolean) => void;
}

/** How one is signed in, as words of a sentence. */
export function FactorField({ factor, note, onChoose }: FactorProps) {
  return (
    <Field
      label="Second factor"
      value={factor ? "with a second factor" : "without a second factor"}
      picker={(close) => (
        <Choose
          label="Signed in"
          value={factor ? "1" : ""}
          options={[
            { value: "1", label: "with a second factor", ...(note && { note }) },
            { value: "", label: "without a second factor" },
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
