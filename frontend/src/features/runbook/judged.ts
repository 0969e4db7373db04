import type { components } from "../../api/schema.gen";

type Expected = components["schemas"]["Expected"];

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
