import { Link } from "react-router";
import { useDesk } from "../api/plan";

/** Says on every screen of a variant that it is one, and leads to its plan. */
export function VariantLine() {
  const { view } = useDesk();
  if (!view.variant_of) return null;
  return (
    <p className="mx-auto max-w-[1360px] px-5 pb-1 text-faint" data-testid="variant">
      A variant: what is changed here does not touch{" "}
      <Link className="underline" to={`/plans/${view.variant_of}/outage`}>
        the plan
      </Link>
      .{" "}
      <Link className="underline" to={`/plans/${view.id}/variants`}>
        Side by side
      </Link>
    </p>
  );
}
