/** A thing of the model in the document form: fields by name, defaults omitted. */
export type Thing = Record<string, unknown>;

export function textOf(thing: unknown, field: string): string {
  const value = (thing as Thing | undefined)?.[field];
  return typeof value === "string" ? value : "";
}

export function flagOf(thing: unknown, field: string): boolean {
  return (thing as Thing | undefined)?.[field] === true;
}

export function listOf<T = string>(thing: unknown, field: string): T[] {
  const value = (thing as Thing | undefined)?.[field];
  return Array.isArray(value) ? (value as T[]) : [];
}

/** One edit of one thing, as the server adds it to the open draft. */
export interface Edit {
  kind: string;
  key?: string;
  before?: Thing;
  after?: Thing;
  set?: Record<string, unknown>;
  add?: Record<string, unknown[]>;
  drop?: Record<string, unknown[]>;
  remove?: boolean;
  /** Of a place: the place it is merged into. */
  mergeInto?: string;
}

function isRecord(value: unknown): value is Thing {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** A thing out of an answer, whose generated type says only that it is an object. */
export function thingFrom(value: unknown): Thing {
  return isRecord(value) ? value : {};
}

/** The edits out of an answer; what is none is left out. */
export function editsFrom(values: unknown[]): Edit[] {
  return values.filter((it): it is Edit & Thing => isRecord(it) && typeof it["kind"] === "string");
}
