/**
 * With whose eyes this window looks: an impersonated view. It stands in the window's name, so that
 * it outlives a reload, ends with the window, and differs from frame to frame.
 */
export interface Eyes {
  key: string;
  factor: boolean;
  at?: string;
}

const PREFIX = "mandala-eyes ";

export function eyes(name = window.name): Eyes | undefined {
  if (!name.startsWith(PREFIX)) return undefined;
  try {
    const read = JSON.parse(name.slice(PREFIX.length)) as Eyes;
    return typeof read.key === "string" && read.key ? read : undefined;
  } catch {
    return undefined;
  }
}

export function nameOf(whose: Eyes): string {
  return PREFIX + JSON.stringify(whose);
}

/** The headers by which a call says with whose eyes it looks. */
export function headersOf(whose: Eyes | undefined): Record<string, string> {
  if (!whose) return {};
  return {
    "Mandala-As": whose.key,
    ...(whose.factor && { "Mandala-As-Factor": "1" }),
    ...(whose.at && { "Mandala-As-At": whose.at }),
  };
}

/** Looks with one's own eyes again. */
export function leave(to: string) {
  window.name = "";
  window.location.assign(to);
}
