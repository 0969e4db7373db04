import type { RunResult } from "../../api/client";
import { type Clock, readTime } from "../../ui/clock";
import { readQuantity } from "../../ui/quantity";

const DAYS = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];
const MONTHS = ["jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec"];

interface Local {
  month: number;
  date: number;
  weekday: number;
  second: number;
}

/** What the site's clock and calendar show. */
function localAt(instant: number, zone: string): Local {
  const parts = new Intl.DateTimeFormat("en-GB", {
    year: "numeric",
    month: "numeric",
    day: "numeric",
    hour: "numeric",
    minute: "numeric",
    second: "numeric",
    hourCycle: "h23",
    timeZone: zone,
  }).formatToParts(instant);
  const read = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0);
  const [year, month, date] = [read("year"), read("month"), read("day")];
  return {
    month,
    date,
    weekday: new Date(Date.UTC(year, month - 1, date)).getUTCDay(),
    second: read("hour") * 3600 + read("minute") * 60 + read("second"),
  };
}

/**
 * Read a moment of the outage: “Thu 3:10”, “14 Oct 18:00”, “18:00” (the next after the cursor), “36 h” (after the
 * start), “now”.
 *
 * Returns seconds from the start, or nothing where it is not read or not in the outage.
 */
export function readMoment(
  text: string,
  run: RunResult,
  at: number,
  zone: string,
  clock: Clock,
): number | null {
  const words = text.trim().toLowerCase();
  const start = new Date(run.start).getTime();
  const within = (seconds: number) => (seconds >= 0 && seconds <= run.length_s ? seconds : null);
  if (words === "now") return within((Date.now() - start) / 1000);
  const after = /^\+?\s*([\d.]+\s*(?:h|d|min|hours?|days?))$/.exec(words);
  if (after) {
    const hours = readQuantity(after[1] ?? "", "h");
    return hours === null ? null : within(hours * 3600);
  }
  const found = /^(?:([a-z]{3})[a-z]*\.?,?\s*)?(?:(\d{1,2})\s+([a-z]{3})[a-z]*\.?,?\s*)?(.*)$/.exec(words);
  const [weekday, month] = [DAYS.indexOf(found?.[1] ?? ""), MONTHS.indexOf(found?.[3] ?? "")];
  if (!found || (found[1] && weekday < 0) || (found[3] && month < 0)) return null;
  const said = found[4]?.trim() ?? "";
  const time = said === "" && (found[1] || found[3]) ? "00:00:00" : readTime(said, clock);
  if (time === null) return null;
  const [hours = 0, minutes = 0] = time.split(":").map(Number);
  const wanted = hours * 3600 + minutes * 60;
  const fits = (local: Local) =>
    (!found[1] || local.weekday === weekday) &&
    (!found[3] || (local.month === month + 1 && local.date === Number(found[2])));
  const any = !found[1] && !found[3];
  const candidates: number[] = [];
  for (let day = 0; day <= Math.ceil(run.length_s / 86_400) + 1; day += 1) {
    const noon = localAt(start + day * 86_400_000, zone);
    const guess = day * 86_400 + wanted - noon.second;
    /** Where the clock is set on that day the guess is off by what it is set. */
    const off = wanted - localAt(start + guess * 1000, zone).second;
    const exact = guess + (Math.abs(off) < 43_200 ? off : 0);
    if (within(exact) !== null && fits(localAt(start + exact * 1000, zone))) candidates.push(exact);
  }
  return (any ? candidates.find((moment) => moment > at + 1) : undefined) ?? candidates[0] ?? null;
}
