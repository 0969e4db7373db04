import type { Clock } from "./clock";

/** Figures and moments as people write them. Nothing is computed here. */

const plain = new Intl.NumberFormat("en-US", { maximumFractionDigits: 0 });
const fine = new Intl.NumberFormat("en-US", { maximumFractionDigits: 1 });

export const whole = (value: number) => plain.format(value);
export const tenth = (value: number) => fine.format(value);
/** Words in which no figure stands on one line and its unit on the next. */
export const unbroken = (words: string) =>
  words.replace(
    /(\d) (?=(?:%|°[CF]|[kM]?(?:Wh?|VA|Ah?|V)|h|min|s|days?|ft|m|gal|L|kg|lb)(?![\p{L}\d]))/gu,
    "$1\u00a0",
  );
export const percent = (share: number) => `${plain.format(100 * share)} %`;
export const watts = (value: number) => `${plain.format(value)} W`;
/** The rating of a breaker or a bus, which may not be known. */
export const ampsOf = (value: number | "unknown" | null | undefined) =>
  typeof value === "number" ? `${value} A` : "not known";
export const energy = (wh: number) =>
  wh >= 10_000 ? `${fine.format(wh / 1000)} kWh` : `${plain.format(wh)} Wh`;

const HALVES = { "24": {}, "12": { hour12: true, hour: "numeric" } } as const;

const made = new Map<string, Intl.DateTimeFormat>();

/** A way to write moments; making one costs as much as writing a hundred, so each is made once. */
function writing(options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = JSON.stringify(options);
  const known = made.get(key) ?? new Intl.DateTimeFormat("en-GB", options);
  made.set(key, known);
  return known;
}

/** A moment on the clock of a place: Wed 14 Oct 03:10, or 3:10 am where that is set. */
export function moment(at: string | number | Date, zone: string, clock: Clock = "24"): string {
  const parts = Object.fromEntries(
    writing({
      weekday: "short",
      day: "numeric",
      month: "short",
      hour: "2-digit",
      minute: "2-digit",
      ...HALVES[clock],
      timeZone: zone,
    })
      .formatToParts(new Date(at))
      .map((part) => [part.type, part.value]),
  );
  const half = parts.dayPeriod ? ` ${parts.dayPeriod.toLowerCase()}` : "";
  return `${parts.weekday} ${parts.day} ${parts.month} ${parts.hour}:${parts.minute}${half}`;
}

/** A moment on the clock of whoever reads it, as all others are written. */
export const here = (at: string | number | Date): string =>
  moment(at, Intl.DateTimeFormat().resolvedOptions().timeZone);

/** A time of day on the clock of a place. */
export function time(at: string | number | Date, zone: string, clock: Clock = "24"): string {
  const written = { hour: "2-digit", minute: "2-digit", ...HALVES[clock], timeZone: zone } as const;
  return writing(written).format(new Date(at)).toLowerCase();
}
