import type { Load } from "../../api/client";
import { watts, whole } from "../../ui/format";

/** What is hidden behind one figure of a load: its defrost, the steps of a burner, the stages of a job. */
export function hiddenParts(load: Load | undefined): string {
  const spec = load?.behaviour;
  if (!spec) return "";
  if ((spec.kind === "cycling" || spec.kind === "refrigerating") && spec.defrost) {
    const { watts: heat, seconds, every_s } = spec.defrost;
    return `defrosts with ${watts(heat)} for ${whole(seconds / 60)} min every ${whole(every_s / 3600)} h`;
  }
  if (spec.kind === "thermostatic") {
    const steps = [...(spec.before ?? []), ...(spec.after ?? [])];
    return steps.map((step) => `${step.name} ${watts(step.watts)}`).join(", ");
  }
  if (spec.kind === "job" && spec.steps.length > 1)
    return spec.steps.map((step) => `${watts(step.watts)} for ${whole(step.minutes)} min`).join(", then ");
  return "";
}
