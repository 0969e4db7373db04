import { keep, kept } from "./kept";

/** How far a sheet was gone through on this device: kept here, so that leaving and coming back goes on. */

export interface Tick {
  /** Of its row in the record. */
  id: string;
  /** When it was done, ms since 1970. */
  at: number;
  /** What was read, as typed, by the place of the reading. */
  read: Record<string, string>;
}

export interface Progress {
  /** The revision of the plan that the sheet was made of. */
  revision: number;
  begun: number;
  ticks: Tick[];
}

const keyOf = (planId: string, sheet: string) => `weary-cedar at the panel ${planId} ${sheet}`;

/** What is kept of a sheet; nothing where it was not begun. */
export const keptProgress = (planId: string, sheet: string) => kept<Progress>(keyOf(planId, sheet));

export const keepProgress = (planId: string, sheet: string, progress: Progress | null) =>
  keep(keyOf(planId, sheet), progress);
