import type { GlossaryWord } from "@/shared/lib/glossary";
import type { Thing } from "@/shared/lib/thing";

/** What a field of a thing holds; it decides how the field is edited. */
export type Shape =
  | "text"
  | "number"
  | "flag"
  | "date"
  | "scope"
  | "gives"
  | "limit"
  | "subjects"
  | "sides"
  | "exempt"
  | "reach"
  | "attributes"
  | { choice: string[] }
  | { one: string }
  | { many: string };

export interface FieldSpec {
  field: string;
  label: string;
  shape: Shape;
  required?: boolean;
  /** Required of some things only. */
  needed?: (thing: Thing) => boolean;
  /** Asked of some things only. */
  asked?: (thing: Thing) => boolean;
  /** Of the form alone, and not of the thing: what the form says of an existing one. */
  derived?: (thing: Thing) => unknown;
  /** An explanation, where the label needs one. */
  note?: string;
  /** Set only when the thing is created, since it identifies it. */
  fixed?: boolean;
  /** Shown at once in the form of a new thing, even if not required. */
  first?: boolean;
  /** Shown for a missing value. */
  silent?: string;
}

export interface KindSpec {
  kind: string;
  one: string;
  many: string;
  /** What such a thing is for, in one sentence. */
  about: string;
  /** The word of the glossary that it is. */
  term?: GlossaryWord;
  /** The supplied permission that creates one in an account; none where it depends on whose it is. */
  makes?: string;
  /** What a new one begins with. */
  proposes?: () => Thing;
  fields: FieldSpec[];
}
