/** What a column of a list of people can hold, in words. */
export const FACTS: Record<string, string> = {
  number: "Personnel number",
  name: "Name",
  email: "E-mail address",
  key: "Key",
  title: "Job",
  unit: "Unit",
  manager: "Manager",
  group: "Groups",
  from: "First day",
  until: "Day after the last",
};

const PREFIX = "mandala.columns.";

/** The mapping that was chosen for a table with the same first line; empty where there was none. */
export function keptMapping(head: string): Record<string, string> {
  const text = localStorage.getItem(PREFIX + head);
  try {
    const kept: unknown = text === null ? {} : JSON.parse(text);
    return typeof kept === "object" && kept !== null ? (kept as Record<string, string>) : {};
  } catch {
    return {}; // nothing that this version wrote
  }
}

/** Keeps a mapping for the next table with the same first line. */
export function keepMapping(head: string, mapping: Record<string, string>) {
  localStorage.setItem(PREFIX + head, JSON.stringify(mapping));
}
