import type { ReactNode } from "react";

/** What fields that open a picker have in common. */
export interface PickerField<V extends unknown[] = [key: string, name: string]> {
  /** What the value is about. */
  label: string;
  value: ReactNode;
  look?: "word" | "link" | "button" | "path";
  /** Names the search field of the picker; the label where it is left out. */
  search?: string;
  onChoose: (...chosen: V) => void;
}
