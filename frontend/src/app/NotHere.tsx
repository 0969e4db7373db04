import { Link, useLocation } from "react-router";

/** An address that leads nowhere: what it was, and the ways back. */
export function NotHere() {
  const { pathname } = useLocation();
  return (
    <main className="mx-auto max-w-[760px] px-5 py-8">
      <p className="font-semibold text-cedar">Weary Cedar</p>
      <h1 className="mt-1">There is nothing at {pathname}</h1>
      <p className="mt-2">
        The address may be mistyped, or of an older version. Nothing was changed by opening it.
      </p>
      <p className="mt-3 flex flex-wrap gap-4">
        <Link className="act" to="/plans">
          All plans
        </Link>
        <Link className="act" to="/">
          The plan that was saved last
        </Link>
        <Link className="act" to="/begin">
          Begin a plan
        </Link>
      </p>
    </main>
  );
}
