"""What every need costs, how sure that is, and what to measure next."""

import math

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.decide.how_long import HowLong, LegWatts, Stored
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.network import Network, network_of
from weary_cedar.core.panel_schedule import mean_watts
from weary_cedar.core.plan import Plan

#: How far off a figure may be by where it comes from, as a fraction. Common practice: guesses are
#: off by a factor of two, mostly by their duty.
DOUBT = {"measured": 0.05, "plate": 0.25, "library": 0.35, "estimate": 0.5}
#: A load of this many watts that alone empties the station this fast is a hog. Common practice.
HOG_W, HOG_H = 1000.0, 2.0
#: Measuring is worth while where a load's doubt is more than this share of the whole day.
WORTH_MEASURING = 0.02


class Need(BaseModel):
    """One load as a need."""

    model_config = ConfigDict(frozen=True)

    load_id: str
    name: str
    #: Breaker that it hangs on, or else the lead that its own plug is in; neither where it hangs on nothing.
    circuit_id: str | None
    lead_id: str | None
    mark: str
    running_w: float
    start_va: float | None
    wh_day: float
    wh_day_error: float
    origin: str
    share: float
    alone_h: float | None
    costs_h: float | None
    hog: bool


class NeedList(BaseModel):
    """All needs, the costliest first, with what is not known well enough."""

    model_config = ConfigDict(frozen=True)

    needs: tuple[Need, ...]
    wh_day: float
    wh_day_error: float
    how_long: HowLong
    measure_next: str | None


def leg_watts(network: Network, key: str, watts: float) -> LegWatts:
    """Watts of a load by leg: on A (or the only one), on B, or half on each."""
    legs = network.legs_of(key)
    if len(legs) > 1:
        return watts / 2, watts / 2
    return (0.0, watts) if legs[0] == "B" else (watts, 0.0)


def need_list(plan: Plan) -> NeedList:
    """List all loads as needs.

    Args:
        plan: the plan; the station or linked pair of its feed carries them.

    Returns:
        Needs sorted by Wh a day. `alone_h`: how long the station would run it alone, idle draw
        included; `costs_h`: hours that all marked loads together lose by it; totals count what is
        marked keep or room; doubts add as independent.

    Source: runtime by energy over power; doubts are common practice.
    """
    carrier = Stored(plan)
    means = {key: mean_watts(plan, load) for key, load in plan.loads.items()}
    network = network_of(plan)
    counted = network.counted_loads
    total_w = math.fsum(means[key] for key in counted)
    shares = [leg_watts(network, key, means[key]) for key in sorted(counted)]
    total = (math.fsum(a for a, _ in shares), math.fsum(b for _, b in shares))
    doubts_w = {key: DOUBT[load.origin] * means[key] for key, load in plan.loads.items()}
    doubt_w = math.sqrt(math.fsum(doubts_w[key] ** 2 for key in counted))
    needs = [
        _need(network, key, carrier, means[key], total if key in counted else None) for key in plan.loads
    ]
    next_id = max(counted, key=lambda key: (doubts_w[key], key), default=None)
    worth = next_id is not None and doubts_w[next_id] > WORTH_MEASURING * total_w
    off = doubt_w / total_w if total_w else 0.0
    return NeedList(
        needs=tuple(sorted(needs, key=lambda need: (-need.wh_day, need.load_id))),
        wh_day=24 * total_w,
        wh_day_error=24 * doubt_w,
        how_long=carrier.how_long(total, off),
        measure_next=next_id if worth else None,
    )


def _need(network: Network, key: str, carrier: Stored, mean_w: float, total: LegWatts | None) -> Need:
    load, hang = network.plan.loads[key], network.hangs[key]
    running_w = on_watts(load)
    own = leg_watts(network, key, mean_w)
    together, without = None, None
    if total is not None:
        together = carrier.hours(total)
        without = carrier.hours((total[0] - own[0], total[1] - own[1]))
    flat_out_h = carrier.hours(leg_watts(network, key, running_w))
    return Need(
        load_id=key,
        name=load.name,
        circuit_id=hang.circuit_id,
        lead_id=hang.lead_id,
        mark=hang.mark,
        running_w=running_w,
        start_va=load.start.va if load.start else None,
        wh_day=24 * mean_w,
        wh_day_error=24 * mean_w * DOUBT[load.origin],
        origin=load.origin,
        share=mean_w / sum(total) if total and sum(total) else 0.0,
        alone_h=carrier.hours(own),
        costs_h=without - together if together is not None and without is not None else None,
        hog=running_w >= HOG_W and flat_out_h is not None and flat_out_h < HOG_H,
    )
