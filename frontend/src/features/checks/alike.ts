import type { Finding } from "../../api/client";

/** Findings of one check and level together, in the order of the first of each. */
export function alike(findings: Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    // What is not known is named by itself: one missing datum is not like another.
    const own = finding.level === "cannot_judge" ? `${finding.key} ${groups.size}` : "";
    const key = [finding.check_id, finding.level, finding.title, own].join(" ");
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [...groups.values()];
}

/** Where a finding is told in full. */
export const anchor = (finding: Finding) => `finding-${finding.level}-${finding.check_id}`;
