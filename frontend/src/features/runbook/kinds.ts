import type { components } from "../../api/schema.gen";

export type Sheet = components["schemas"]["Sheet"];

/** Kinds of sheets in the order in which they are looked for, and what each heads. */
export const KINDS: readonly (readonly [Sheet["kind"], string])[] = [
  ["make_safe", "Something is wrong"],
  ["before", "Before"],
  ["change_over", "Change over"],
  ["swap", "Swap sources"],
  ["charge", "Charge"],
  ["end_charge", "End the charge"],
  ["between_cuts", "Between two cuts"],
  ["sun", "Sun"],
  ["night", "Night"],
  ["ration", "Ration"],
  ["return", "Back to the utility"],
  ["recover", "After a trip"],
  ["find_out", "It does not work: find out why"],
  ["trial", "Test of a conversion"],
];

/** Kinds of which there are many, for seldom: their list is opened. */
export const FOLDED: ReadonlySet<Sheet["kind"]> = new Set(["find_out"]);

/** Sheets after which the house stands otherwise: what was begun before them is over. */
export const ENDING: ReadonlySet<Sheet["kind"]> = new Set([
  "change_over",
  "swap",
  "return",
  "make_safe",
  "between_cuts",
]);

/** Where a sheet leads when something happens: of its own lead, else the first there is. */
export function ledTo(sheets: readonly Sheet[], from: Sheet, kind: Sheet["kind"]): Sheet | undefined {
  const leads = from.key.split("/").slice(1).reverse();
  const some = sheets.filter((sheet) => sheet.kind === kind && sheet.key !== from.key);
  for (const lead of leads) {
    const own = some.find((sheet) => sheet.key.split("/").includes(lead));
    if (own) return own;
  }
  return some[0];
}
