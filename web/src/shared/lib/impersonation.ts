/**
 * The impersonated view of this window. It is kept in the window's name: it outlives a reload, ends
 * with the window, and each frame has its own.
 */
export interface Impersonation {
  key: string;
  factor: boolean;
  at?: string;
}

const PREFIX = "mandala-view ";

export function impersonation(name = window.name): Impersonation | undefined {
  if (!name.startsWith(PREFIX)) return undefined;
  try {
    const read = JSON.parse(name.slice(PREFIX.length)) as Impersonation;
    return typeof read.key === "string" && read.key ? read : undefined;
  } catch {
    return undefined;
  }
}

export function nameOf(whose: Impersonation): string {
  return PREFIX + JSON.stringify(whose);
}

/** The headers that tell the server whose view a call is made in. */
export function impersonationHeaders(whose: Impersonation | undefined): Record<string, string> {
  if (!whose) return {};
  return {
    "Mandala-As": whose.key,
    ...(whose.factor && { "Mandala-As-Factor": "1" }),
    ...(whose.at && { "Mandala-As-At": whose.at }),
  };
}

/** Ends the view in this window and opens a page. */
export function leave(to: string) {
  window.name = "";
  window.location.assign(to);
}
