"""What a heater on a thermostat takes from the station: by day, and at its worst moment."""

from dataclasses import dataclass

from weary_cedar.core.demand.heat_loss import HeatingDay, heating_day, setback_saving
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.network import Network, Way, network_of
from weary_cedar.core.network.feed_limits import feed_limits
from weary_cedar.core.plan import Generator, Plan, Start, Thermostatic
from weary_cedar.core.supply.engine import engine_curve
from weary_cedar.core.supply.overload import OverloadCurve

#: Outdoor temperatures of the table of a heater, °C.
OUTDOORS_C = tuple(range(-25, 20, 5))
#: The same for a cooler.
OUTDOORS_COOLING_C = tuple(range(24, 44, 2))


@dataclass(frozen=True)
class HeaterDay:
    """A day at one outdoor temperature, and what setting back at night saves at most."""

    outdoor_c: float
    day: HeatingDay
    setback_saving: float


@dataclass(frozen=True)
class WorstMoment:
    """The heater's worst moment on its leg: with everything marked keep there running.

    Volt-amperes; `carried_va` is what the leg carries for as long as the start lasts.
    """

    legs: tuple[str, ...]
    others_w: float
    heater_w: float
    start_va: float
    limit_va: float | None
    carried_va: float | None


def sequence_wh(spec: Thermostatic) -> float:
    """Energy of the steps before and after the run, Wh per cycle.

    >>> from weary_cedar.core.plan import SequenceStep
    >>> sequence_wh(Thermostatic(before=(SequenceStep(name="igniter", watts=360.0, seconds=20.0),)))
    2.0
    """
    return sum(step.watts * step.seconds for step in (*spec.before, *spec.after)) / 3600.0


def heater_days(spec: Thermostatic, standby_w: float = 0.0) -> list[HeaterDay]:
    """Electrical energy a day against outdoor temperature.

    Args:
        spec: the heater, with the loss of its house.
        standby_w: drawn all day, W.

    Returns:
        A day for each outdoor temperature of the table. A cooler is a heater mirrored.

    Source: heat balance and the cycle formula of thermostats.
    """
    night_h = _night_h(spec)
    heats = spec.mode == "heat"
    sign = 1.0 if heats else -1.0
    days = []
    for outdoor_c in OUTDOORS_C if heats else OUTDOORS_COOLING_C:
        day = heating_day(
            sign * outdoor_c,
            spec.loss_w_per_k,
            sign * spec.set_c,
            sign * spec.gain_w,
            spec.output_w,
            spec.run_w,
            sequence_wh(spec),
            standby_w,
            spec.cycles_at_half,
        )
        back_c = spec.setback.set_c if spec.setback else spec.set_c
        saving = setback_saving(sign * spec.set_c, sign * back_c, night_h, sign * outdoor_c)
        days.append(HeaterDay(outdoor_c, day, saving))
    return days


def _night_h(spec: Thermostatic) -> float:
    if spec.setback is None:
        return 0.0
    begins, ends = (at.hour + at.minute / 60 for at in (spec.setback.begins, spec.setback.ends))
    return (ends - begins) % 24


def worst_moment(plan: Plan, load_id: str, spec: Thermostatic, start: Start | None) -> WorstMoment:
    """The worst that a heater asks of its leg.

    Args:
        plan: the plan.
        load_id: the heater, on a circuit or on a lead.
        spec: the heater.
        start: of its blower or pumps.

    Returns:
        What else marked keep runs on its legs, the heaviest step and the start, against what the
        feed carries; limits are missing where there is no feed.

    Source: common practice of the trade: everything that must stay on, together, then the start.
    """
    network = network_of(plan)
    legs, branch = network.legs_of(load_id), network.hangs[load_id].branch
    way = network.feeding(branch)
    others_w = max(_kept_w(network, way, leg, branch) for leg in legs)
    heater_w = max(spec.run_w, *(step.watts for step in (*spec.before, *spec.after)), 0.0)
    limit_va = carried_va = None
    if way is not None:
        source = plan.source(way.hookup)
        limit_va = feed_limits(plan, way.hookup).leg_va
        curve = engine_curve(source) if isinstance(source, Generator) else OverloadCurve(source.curve)
        carried_va = limit_va * curve.carried_multiple(start.seconds if start else 1.0)
    start_va = (start.va if start else 0.0) / len(legs)
    return WorstMoment(legs, others_w, heater_w / len(legs), start_va, limit_va, carried_va)


def _kept_w(network: Network, way: Way | None, leg: str, besides: str) -> float:
    """On-watts of everything marked keep on a leg of the same source, other than one circuit or plug."""
    total_w = 0.0
    for key, hang in network.hangs.items():
        legs = network.legs_of(key)
        beside = hang.branch != besides and (way is None or hang.branch in way.branches)
        if hang.mark == "keep" and leg in legs and beside:
            total_w += on_watts(network.plan.loads[key]) / len(legs)
    return total_w
