import { count } from "@/shared/lib/words";
import { NumberWord } from "./NumberWord";

interface Props {
  label: string;
  days: number;
  max?: number;
  onChoose: (days: number) => void;
}

/** A number of days as words of a sentence. */
export function DaysWord({ label, days, max = 90, onChoose }: Props) {
  return (
    <NumberWord
      label={label}
      value={days}
      text={count(days, "day")}
      max={max}
      onChoose={onChoose}
    />
  );
}
