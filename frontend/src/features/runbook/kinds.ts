import type { components } from "../../api/schema.gen";

export type Sheet = components["schemas"]["Sheet"];

/** Kinds of sheets in the order in which they are looked for, and what each heads. */
export const KINDS: readonly (readonly [Sheet["kind"], string])[] = [
  ["before", "Before"],
  ["change_over", "Change over"],
  ["swap", "Swap sources"],
  ["charge", "Charge"],
  ["between_cuts", "Between two cuts"],
  ["sun", "Sun"],
  ["night", "Night"],
  ["ration", "Ration"],
  ["return", "Back to the utility"],
  ["recover", "After a trip"],
  ["make_safe", "Something is wrong"],
];
