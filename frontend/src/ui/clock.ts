/** Times of day and days as people write them. */

export type Clock = "12" | "24";

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const WORDS: Record<string, string> = { noon: "12:00:00", midnight: "00:00:00" };
const two = (value: number) => String(value).padStart(2, "0");

/** A stored time of day as it is shown: 18:30, or 6:30 pm. */
export function timeOf(stored: string, clock: Clock): string {
  const [hours = 0, minutes = 0] = stored.split(":").map(Number);
  if (clock === "24") return `${two(hours)}:${two(minutes)}`;
  return `${hours % 12 || 12}:${two(minutes)} ${hours < 12 ? "am" : "pm"}`;
}

/** Read a time of day; where the half day is set but not written it could be either, and is not read. */
export function readTime(text: string, clock: Clock): string | null {
  const word = WORDS[text.toLowerCase()];
  if (word) return word;
  const found = /^(\d{1,2})(?:[:.h]?([0-5]\d))?\s*(?:([ap])\.?\s*(?:m\.?)?)?$/i.exec(text);
  if (!found) return null;
  const [hours, minutes, half] = [Number(found[1]), Number(found[2] ?? 0), found[3]?.toLowerCase()];
  if (half) {
    if (hours < 1 || hours > 12) return null;
    return `${two((hours % 12) + (half === "p" ? 12 : 0))}:${two(minutes)}:00`;
  }
  if (hours > 23 || (clock === "12" && hours > 0 && hours <= 12)) return null;
  return `${two(hours)}:${two(minutes)}:00`;
}

/** A stored day as it is shown: 14 Oct 2026. */
export function dateOf(stored: string): string {
  const [year = 0, month = 1, day = 1] = stored.slice(0, 10).split("-").map(Number);
  return `${day} ${MONTHS[month - 1]} ${year}`;
}

/** Read a day; without a year it is in the year of the day before. Figures that could be day or month are not read. */
export function readDate(text: string, before: string): string | null {
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(text);
  if (iso) return day(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const found = /^(?:(\d{1,2})\.?\s+([a-z]{3,9})\.?|([a-z]{3,9})\.?\s+(\d{1,2}))(?:,?\s+(\d{4}))?$/i.exec(
    text,
  );
  if (!found) return null;
  const name = (found[2] ?? found[3] ?? "").slice(0, 3).toLowerCase();
  const month = MONTHS.findIndex((word) => word.toLowerCase() === name) + 1;
  return month ? day(Number(found[5] ?? before.slice(0, 4)), month, Number(found[1] ?? found[4])) : null;
}

function day(year: number, month: number, date: number): string | null {
  const made = new Date(Date.UTC(year, month - 1, date));
  const real = made.getUTCMonth() === month - 1 && made.getUTCDate() === date && date > 0;
  return real ? `${year}-${two(month)}-${two(date)}` : null;
}
