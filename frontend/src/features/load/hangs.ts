import type { Mark, Plan } from "../../api/client";
import { leadWords } from "../feed/leads";

/** Leads that single loads hang on by their own plugs: load → lead. */
function plugs(plan: Plan): Record<string, string> {
  return Object.fromEntries(
    Object.entries(plan.leads ?? {}).flatMap(([id, { to }]) =>
      to.end === "loads" ? (to.load_ids ?? []).map((key) => [key, id]) : [],
    ),
  );
}

/** The lead that a load hangs on by its own plug, if it does. */
export function leadOf(plan: Plan, id: string): string | null {
  return plugs(plan)[id] ?? null;
}

/** The mark that counts of a load: of its breaker, or its own where it hangs on a lead or on nothing. */
export function markOf(plan: Plan, id: string): Mark {
  const load = plan.loads?.[id];
  const circuit = plugs(plan)[id] ? undefined : plan.circuits?.[load?.circuit_id ?? ""];
  return (circuit ? circuit.mark : load?.mark) ?? "keep";
}

/** What a load hangs on, in words. */
export function hangsOn(plan: Plan, circuitId?: string | null, leadId?: string | null): string {
  if (circuitId) return plan.circuits?.[circuitId]?.label ?? circuitId;
  if (leadId) return `on ${leadWords(plan, leadId)}`;
  return "on nothing yet";
}
