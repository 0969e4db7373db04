import type { components } from "../../api/schema.gen";
import { whole } from "../../ui/format";

type Expected = components["schemas"]["Expected"];

/** What a meter should show, and what it shows in the run. */
export function expectedWords({ where, low, high, unit, usual }: Expected): string {
  const range = `${where}: ${whole(low)} to ${whole(high)} ${unit}`;
  return usual == null ? range : `${range}, in the run ${whole(usual)}`;
}

/** A reading against what was expected, in words; empty where it fits. */
/** Places of readings that were left blank. */
export function unread(readings: readonly Expected[], read: Record<string, string>): string[] {
  return readings.map(({ where }) => where).filter((where) => (read[where] ?? "").trim() === "");
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
