/** Something referred to, such as `group:K` or `role:K`, and its name. */
export interface Named {
  ref: string;
  name: string;
}

interface Somebody {
  key: string;
  kind: string;
}

/** A principal as groups and assignments refer to it: `person:K` or `service:K`. */
export function refOf(it: Somebody): string {
  return `${it.kind}:${it.key}`;
}

/** The page of a subject; undefined where it has none. */
export function subjectPage(ref: string): string | undefined {
  const [kind, key] = ref.split(":");
  if (!key) return undefined;
  const id = encodeURIComponent(key);
  if (kind === "group") return `/groups/${id}`;
  return kind === "person" || kind === "service" ? `/people/${id}` : undefined;
}
