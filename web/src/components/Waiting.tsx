/** Something is being fetched; it shows only after a moment, so that fast answers do not flicker. */
export function Waiting({ what }: { what: string }) {
  return (
    <p className="waiting" role="status">
      Fetching {what} …
    </p>
  );
}
