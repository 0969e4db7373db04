import { useDesk } from "../../api/plan";
import { HistoryLines } from "./HistoryLines";

/** What changed and when; any revision can be opened and brought back. */
export function HistoryScreen() {
  const { view, restore } = useDesk();
  return (
    <>
      <h1 className="mb-1">History of this plan</h1>
      <p className="mb-3 text-faint">
        The newest first. Open a revision to see what the plan said then; bringing it back adds a line here
        and takes nothing away.
      </p>
      <HistoryLines planId={view.id} revision={view.revision} restore={restore} />
    </>
  );
}
