import { useCursor } from "../../api/cursor";
import { useDesk, useRun } from "../../api/plan";
import { Moment } from "./Moment";

/** The moment that the strip shows, on other screens: what each leg carries then, and what runs. */
export function MomentBar() {
  const { view } = useDesk();
  const run = useRun().data;
  const [cursor, setAt] = useCursor();
  if (!run?.ledger) return null;
  const at = Math.min(cursor ?? 0, run.length_s);
  return (
    <details className="mb-3 border-l-2 border-rule pl-3" open={cursor !== null}>
      <summary className="cursor-pointer py-0.5">At a moment of the outage</summary>
      <input
        type="range"
        aria-label="Moment of the outage"
        className="w-full accent-cedar"
        min={0}
        max={run.length_s}
        step={300}
        value={at}
        onChange={(event) => setAt(Number(event.target.value))}
      />
      <Moment run={run} at={at} plan={view.plan} />
    </details>
  );
}
