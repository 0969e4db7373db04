/** Says that something asked of the server did not come, and why; nothing where it did. */
export function CannotShow({ asked, what }: { asked: { error: Error | null }; what: string }) {
  if (!asked.error) return null;
  return (
    <p role="alert" className="my-2 border-l-4 border-stop pl-3">
      <strong>No {what}.</strong> {asked.error.message}
    </p>
  );
}
