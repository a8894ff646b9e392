/** A thing of the model as a document writes it: fields by name, defaults left out. */
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

/** One edit of one thing, as the server takes it into the open draft. */
export interface Edit {
  kind: string;
  key?: string;
  before?: Thing;
  after?: Thing;
  set?: Record<string, unknown>;
  add?: Record<string, unknown[]>;
  drop?: Record<string, unknown[]>;
  remove?: boolean;
  /** Of a place: into which other it is merged. */
  mergeInto?: string;
}
