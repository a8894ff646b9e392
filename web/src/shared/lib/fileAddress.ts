/** Where a whole list is fetched as a file, narrowed as the list is. */
export function fileAddress(
  address: string,
  query: Record<string, string | undefined>,
  format: string,
): string {
  const all = new URLSearchParams();
  for (const [name, value] of Object.entries(query)) if (value) all.set(name, value);
  all.set("format", format);
  return `${address}?${all.toString()}`;
}
