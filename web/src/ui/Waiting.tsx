/** Something is on its way. */
export function Waiting({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-muted">
      Fetching {what} …
    </p>
  );
}
