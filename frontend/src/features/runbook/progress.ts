import { keep, kept, keysWith, listenElsewhere } from "./kept";

/** How far a sheet was gone through on this device: kept here, so that leaving and coming back can go on. */

export interface Tick {
  /** Of its row in the record. */
  id: string;
  /** When it was done, ms since 1970. */
  at: number;
  /** What was read, as typed, by the place of the reading. */
  read: Record<string, string>;
  /** Done; left off; or not as it should be, and gone on with all the same. */
  kind: "done" | "left_off" | "deviates";
  /** Readings that did not fit, in words, and places that were not read. */
  wrong: string[];
  unread: string[];
  /** Of a search: number of its step, of the step that follows, and whether it ends there. */
  step?: number;
  to?: number;
  ends?: boolean;
  answer?: string;
}

/** Which sheet it is: of which plan, in which data folder, at which revision, with which steps. */
export interface Edition {
  born: string;
  revision: number;
  fingerprint: string;
}

export interface Progress extends Edition {
  begun: number;
  ticks: Tick[];
  /** When its last step was done, or it was ended by another sheet. */
  ended?: number;
}

/** Number of the step that comes next: the one behind the last that was done, or where that one led. */
export function nextStep({ ticks }: Progress): number {
  const last = ticks.at(-1);
  return last?.to ?? ticks.length + 1;
}

/** Number of the step of a tick: of a search as it was gone through, else its place. */
export const stepOf = (tick: Tick, index: number) => tick.step ?? index + 1;

/** After so long a sheet is not gone on with by itself, ms. */
const STALE_MS = 12 * 3_600_000;

const prefixOf = (planId: string) => `weary-cedar at the panel ${planId} `;

const keyOf = (planId: string, sheet: string) => prefixOf(planId) + sheet;

export const keepProgress = (planId: string, sheet: string, progress: Progress | null) =>
  keep(keyOf(planId, sheet), progress);

/** What is kept of a sheet: to be gone on with, or of another sheet; nothing where it was not begun, or is ended. */
export function keptProgress(
  planId: string,
  sheet: string,
  edition: Edition,
  now: number,
): { progress: Progress; same: boolean } | null {
  const found = kept<Progress>(keyOf(planId, sheet));
  if (!found || found.ended || found.ticks.length === 0) return null;
  const last = found.ticks.at(-1)?.at ?? found.begun;
  const same =
    found.born === edition.born &&
    found.revision === edition.revision &&
    found.fingerprint === edition.fingerprint &&
    now - last < STALE_MS;
  return { progress: found, same };
}

/** Hear of how far another window has gone through a sheet; of nothing where it was ended or begun again. */
export function listenProgress(planId: string, sheet: string, hear: (progress: Progress | null) => void) {
  const key = keyOf(planId, sheet);
  return listenElsewhere((changed) => {
    if (changed === null || changed === key) hear(kept<Progress>(key));
  });
}

/** A sheet is done to its end: how the house stands is another, so that no other sheet of the plan goes on. */
export function endAll(planId: string) {
  for (const key of keysWith(prefixOf(planId))) keep(key, null);
}
