"""When what flows will trip something, and who minds an overload."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

from weary_cedar.core.outage.carriers import GridCarrier, StationCarrier
from weary_cedar.core.outage.leg_sums import SLACK
from weary_cedar.core.outage.shedding import CLEAR
from weary_cedar.core.outage.tree import Carrier, LiveWay, Node

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun

NEVER: Final = math.inf
#: A battery's protection lets its limit be passed for so long, s. Common practice; starts are shorter.
PROTECTION_S: Final = 5.0


def thresholds(run: OutageRun, t: float, carrier: Carrier) -> None:
    """Set when a carrier and its ways trip, turn themselves off, or are seen to."""
    if isinstance(carrier, GridCarrier):
        return
    left_s = carrier.load_accounts()
    carrier.full_at = t + left_s if carrier.live else NEVER
    if isinstance(carrier, StationCarrier) and carrier.weak is not None:
        _mind_weakest(t, carrier, carrier.weak)
    multiple = carrier.multiple
    worst: Node = carrier
    for way in carrier.live_ways:
        a_va, b_va, _ = way.va
        share = (a_va if a_va > b_va else b_va) / way.leg_va
        if share > CLEAR or way.account.level > 0:
            _mind_breaker(run, t, way)
        if share > multiple:
            multiple, worst = share, way
    if multiple > 1.0 or carrier.over_since is not None or carrier.react_at < NEVER:
        _mind_overload(run, t, carrier, worst, multiple)
    cutout = carrier.cutout if isinstance(carrier, StationCarrier) else None
    if cutout is None or not carrier.live or carrier.ac_w >= cutout.threshold_w:
        carrier.idle_at = NEVER
    elif carrier.idle_at == NEVER:
        carrier.idle_at = t + cutout.after_s


def _mind_weakest(t: float, carrier: StationCarrier, most_w: float) -> None:
    """The protection of the weakest battery opens when more than its limit is drawn for some seconds."""
    over = carrier.live and any(unit.draw_w > most_w * (1 + SLACK) for unit in carrier.units)
    if not over:
        carrier.weak_at = NEVER
    elif carrier.weak_at == NEVER:
        carrier.weak_at = t + PROTECTION_S
    carrier.full_at = min(carrier.full_at, carrier.weak_at)


def _mind_breaker(run: OutageRun, t: float, way: LiveWay) -> None:
    """A breaker of the feed that is over its rating trips by its own time, unless the inverter is sooner."""
    if way.breaker is None:
        return
    share = max(way.amps[0], way.amps[1]) / way.breaker.rating_a
    way.full_at = t + way.account.load(share) if share > 1 + SLACK or way.account.level > 0 else NEVER


def _mind_overload(run: OutageRun, t: float, carrier: Carrier, worst: Node, multiple: float) -> None:
    over = carrier.live and multiple > 1 + SLACK
    if not over:
        carrier.react_at = NEVER
        if carrier.over_since is not None:
            carrier.over_s += t - carrier.over_since
            carrier.over_since = None
        return
    if carrier.over_since is None:
        carrier.over_since = t
        run.out.over_limit(t, carrier, worst, multiple)
    if run.shedding == "by_hand" and carrier.react_at == NEVER:
        carrier.react_at = run.presence.next(t + run.plan.strategy.reaction_s)
