"""What a load draws while it is on."""

from weary_cedar.core.plan import Cycling, Job, Load, Measured, Refrigerating, Thermostatic


def on_watts(load: Load) -> float:
    """Most that a load draws while running, starts apart.

    Args:
        load: of a plan; of a job its heaviest step counts, of a cold store its defrosting.

    Returns:
        W.

    Source: plates and readings as the plan has them.
    """
    spec = load.behaviour
    if isinstance(spec, Cycling | Refrigerating):
        return max(spec.on_w, spec.defrost.watts if spec.defrost else 0.0)
    if isinstance(spec, Job):
        return max(step.watts for step in spec.steps)
    if isinstance(spec, Thermostatic):
        return max(spec.run_w, *(step.watts for step in (*spec.before, *spec.after)), 0.0)
    if isinstance(spec, Measured):
        return max(spec.watts)
    return spec.watts
