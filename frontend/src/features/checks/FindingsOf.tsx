import { useDesk } from "../../api/plan";
import { FindingItem } from "./FindingItem";

/** Findings of some parts of the plan, shown where those are edited. */
export function FindingsOf({ of }: { of: readonly (readonly [string, string])[] }) {
  const { view } = useDesk();
  const found = view.findings.filter((finding) =>
    of.some(([room, id]) => finding.element.room === room && finding.element.id === id),
  );
  if (found.length === 0) return null;
  return (
    <ul aria-label="Findings here">
      {found.map((finding, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: one part may have the same finding twice
        <FindingItem key={`${finding.key} ${index}`} finding={finding} />
      ))}
    </ul>
  );
}
