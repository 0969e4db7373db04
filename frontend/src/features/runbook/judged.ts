import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";

type Expected = components["schemas"]["Expected"];

/** What a meter should show, and what it shows in the run. */
export const expectedWords = (reading: Expected) => `${reading.where}: ${bandWords(reading)}`;

/** Between what a meter should show, and what it shows in the run. */
export function bandWords({ low, high, unit, usual }: Expected): string {
  const band = `${whole(low)} to ${whole(high)} ${unit}`;
  return usual == null ? band : `${band}, in the run ${whole(usual)}`;
}

/** Places of readings that were left blank, but for those that need not be there. */
export function unread(readings: readonly Expected[], read: Record<string, string>): string[] {
  return readings
    .filter(({ optional, where }) => !optional && (read[where] ?? "").trim() === "")
    .map(({ where }) => where);
}

/** What does not fit of the readings that were typed, in words; a text that is no number does not fit. */
export function misfits(readings: readonly Expected[], read: Record<string, string>): string[] {
  return readings.flatMap((reading) => {
    const text = (read[reading.where] ?? "").trim();
    if (text === "") return [];
    const value = Number(text.replace(",", "."));
    const wrong = Number.isFinite(value)
      ? judged(reading, value)
      : `${reading.where}: “${text}” is no number.`;
    return wrong ? [wrong] : [];
  });
}

/** A reading against what was expected, in words; empty where it fits. */
export function judged(reading: Expected, read: number): string {
  const { low, high, unit, where } = reading;
  if (read >= low && read <= high) return "";
  const told = `${Math.round(low)} to ${Math.round(high)} ${unit} on ${where} expected, ${read} read`;
  if (read < low) return `${told}: ${reading.if_low}.`;
  const extra = read - high;
  const others = [...(reading.others ?? [])].sort(
    (one, other) => Math.abs(one.adds - extra) - Math.abs(other.adds - extra),
  );
  const likely = others[0];
  return likely
    ? `${told}: something else is on; most likely ${likely.name}.`
    : `${told}: ${reading.if_high}.`;
}
