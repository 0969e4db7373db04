import { useRouteError } from "react-router";

/** What is shown when a screen fails: what was kept, and what to do. */
export function Broken() {
  const error = useRouteError();
  return (
    <main className="mx-auto max-w-[760px] px-5 py-8">
      <h1>This screen has failed</h1>
      <p className="mt-2">
        What was saved is kept. Load the page again; if it fails again, open the plan's history and go back to
        the revision before.
      </p>
      <p className="mt-2 text-faint">{error instanceof Error ? error.message : String(error)}</p>
      <p className="mt-3">
        <a className="act" href="/plans">
          All plans
        </a>
      </p>
    </main>
  );
}
