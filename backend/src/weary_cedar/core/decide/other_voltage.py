"""What becomes of a plan when its house turns out to have another voltage."""

from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.site import System

#: Volts that fit a house, by system: those of sources and of receptacles.
FITTING: dict[System, tuple[str, ...]] = {
    "split_phase_120_240": ("120/240", "120", "240"),
    "single_phase_230": ("230",),
}
#: So many names are told.
MOST_NAMED = 3


def with_system(plan: Plan, system: System) -> Plan:
    """The plan in a house of another system; nothing else is changed.

    Args:
        plan: the plan.
        system: split-phase 120/240 V, or single-phase 230 V.
    """
    return plan.model_copy(update={"site": plan.site.model_copy(update={"system": system})})


def effects(plan: Plan, system: System) -> list[str]:
    """What another system does to a plan, in sentences; none where the house has it already.

    Args:
        plan: the plan.
        system: of the house.

    Source: currents by I = P/(V·pf), from volts of circuits before and after.
    """
    if plan.site.system == system:
        return []
    after = with_system(plan, system)
    found = [_volts(plan, after)]
    found += _greatest(plan, after)
    plates = [(station.name, station.output) for station in plan.stations.values()]
    plates += [(engine.name, engine.output) for engine in plan.generators.values()]
    odd = [name for name, volts in plates if volts not in FITTING[system]]
    if odd:
        found.append(f"{_named(odd)} cannot feed it: the plate says another voltage.")
    kinds = sorted({kind for kind in _receptacles(plan) if not _fits(kind, system)})
    if kinds:
        found.append(f"{_named(kinds)} belong to the other voltage: choose plugs and inlets again on Feed.")
    if plan.loads:
        found.append(
            "Watts stay as they were typed. An appliance made for one voltage is destroyed, or does "
            "not run, on the other: put in what is really there."
        )
    return found


def _volts(plan: Plan, after: Plan) -> str:
    count = len(plan.circuits)
    circuits = f"{count} circuit{'' if count == 1 else 's'}"
    if after.site.split_phase:
        two = sum(circuit.poles > 1 for circuit in plan.circuits.values())
        wide = f", {two} with two poles at 240 V" if two else ""
        return f"{circuits} would be at 120 V on two legs{wide}."
    return f"{circuits} would be at 230 V on one line: there are no legs to balance and no 120 V."


def _greatest(plan: Plan, after: Plan) -> list[str]:
    """The current of the greatest load before and after."""
    found = []
    for load in plan.loads.values():
        if load.circuit_id is None:
            continue
        power = on_watts(load) / load.power_factor
        before, then = (power / _circuit_v(each, load.circuit_id) for each in (plan, after))
        found.append((before, then, load.name))
    if not found:
        return []
    before, then, name = max(found)
    return [f"{name} would take {then:.1f} A instead of {before:.1f} A."] if before > 0 else []


def _circuit_v(plan: Plan, circuit_id: str) -> float:
    poles = plan.circuits[circuit_id].poles if plan.site.split_phase else 1
    return plan.site.leg_volts * poles


def _receptacles(plan: Plan) -> list[str]:
    groups = [part.receptacles for part in plan.stations.values()]
    groups += [part.receptacles for part in plan.generators.values()]
    groups += [part.receptacles for part in plan.links.values()]
    outlets = [outlet.kind for group in groups for outlet in group.values()]
    return [*outlets, *(feed.inlet for feed in plan.feeds.values())]


def _fits(kind: str, system: System) -> bool:
    """Whether a configuration belongs to a system; one that is not known is not accused."""
    row = receptacle(kind)
    return row is None or row["volts"] in FITTING[system]


def _named(names: list[str]) -> str:
    more = len(names) - MOST_NAMED
    return ", ".join(names[:MOST_NAMED]) + (f" and {more} more" if more > 0 else "")
