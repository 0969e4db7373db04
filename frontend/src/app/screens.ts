/** The screens of a plan in the order of the work: where each is, and its name. */
export const SCREENS = [
  ["needs", "Needs"],
  ["panel", "Panel"],
  ["gear", "Gear"],
  ["feed", "Feed"],
  ["checks", "Checks"],
  ["outage", "Outage"],
  ["runbook", "Runbook"],
  ["log", "Log"],
] as const;
