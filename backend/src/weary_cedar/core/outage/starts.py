"""What begins to draw at a moment: one by one, judged at every live source of its path."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

from weary_cedar.core.outage.leg_sums import SLACK, LegSums, start_multiple
from weary_cedar.core.outage.tree import Carrier, Node

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun
    from weary_cedar.core.outage.tree import LiveWay

NEVER: Final = math.inf
#: Fractions of what is carried between which a start makes the voltage dip. Common practice.
DIP_FROM: Final = 0.8
#: Flame sensing that finds no neutral at ground gives up after this, s. Common practice.
LOCKOUT_S: Final = 90.0


def start_and_draw(run: OutageRun, t: float) -> tuple[Carrier, ConnectedLoad] | None:
    """Apply the draws; returns the source that trips and the load whose start trips it, if one does."""
    starting: list[ConnectedLoad] = []
    for load in run.loads if run.rewired else run.changed:
        watts = load.demand.watts if load.powered else 0.0
        if watts != load.draw_w:
            if load.way is not None:
                touch_path(run, load, t)
            if watts > 0 and load.start is not None and load.demand.begins(load.draw_w):
                starting.append(load)
                continue
            draw(run, t, load, watts)
    if not starting:
        return None
    run.flows.yield_charging(t)
    if run.together:
        at_once = [load for load in starting if id(load.way) in run.together]
        starting = [load for load in starting if load not in at_once]
        if len(at_once) > 1:
            found = _start_together(run, t, at_once)
            if found is not None:
                return found
        else:
            starting = sorted([*starting, *at_once], key=lambda item: item.rank)
    for load in starting:
        found = _start_one(run, t, load)
        if found is not None:
            return found
    return None


def carried_together(way: LiveWay, t: float) -> bool:
    """Whether the source of a way carries all that comes on at once with its branches left closed.

    Args:
        way: a way that came up, with the circuits that wait for it.
        t: the moment, s.

    Returns:
        Whether what draws, with all starts on top for the longest of their times, is carried; the order of
        steps for the panel closes the branches one by one where it is not.
    """
    sums, seconds = LegSums(), 0.0
    for load in way.loads:
        if load.circuit not in way.queue or load.demand.watts <= 0:
            continue
        watts = load.demand.watts
        if load.start is not None and load.demand.begins(0.0):
            seconds = max(seconds, load.start.seconds)
            sums.add(load.leg, max(watts, load.start_va(t)), 0.0)
        else:
            sums.add(load.leg, watts, watts * load.q_per_w)
    carrier = way.carrier
    carried = carrier.curve.carried_multiple(seconds) if carrier.curve is not None and seconds else 1.0
    return sums.multiple(carrier.leg_va, carrier.total_va) <= carried


def carried_on(load: ConnectedLoad, tripped: Carrier, t: float) -> bool:
    """Whether a load whose start tripped a source goes on at one behind it that carries the start itself.

    Args:
        load: what started.
        tripped: the source that tripped.
        t: the moment, after it is known again what is live.

    Source: plates; what the other one gives meanwhile is judged at the next start.
    """
    way = load.way
    if way is None or not way.live or way.carrier is tripped or load.start is None:
        return False
    curve = way.carrier.curve
    if curve is None:
        return True
    multiple = start_multiple(
        (0.0, 0.0, 0.0), load.leg, load.start_va(t), way.carrier.leg_va, way.carrier.total_va
    )
    return multiple <= curve.carried_multiple(load.start.seconds) * (1 + SLACK)


def touch_path(run: OutageRun, load: ConnectedLoad, t: float) -> None:
    """Books of every carrier on a load's path."""
    for node, _ in load.path:
        if isinstance(node, Carrier):
            run.touch(node, t)


def draw(run: OutageRun, t: float, load: ConnectedLoad, watts: float) -> None:
    """Change what a load draws; flame sensing on a floating source starts its clock."""
    load.draw(t, watts)
    if load.needs_bonded and load.way is not None and _floats(load.way):
        if watts > 0 and load.locks_at == NEVER:
            load.locks_at = t + LOCKOUT_S
            run.lock_at = min(run.lock_at, load.locks_at)
            run.dues[1] = min(run.dues[1], load.locks_at)
        elif watts == 0:
            load.locks_at = NEVER


def _floats(way: LiveWay) -> bool:
    """Whether the neutral of a way floats now, by what its source passes through."""
    via = way.carrier.via
    return (via.recharge.lead_id if via is not None else None) in way.floats


def hardest(
    load: ConnectedLoad, start_va: float, seconds: float, *, noted: bool
) -> tuple[float, float, Node | None]:
    """Where on its path a start comes nearest to what is carried.

    Args:
        load: what starts.
        start_va: apparent power of the start, VA.
        seconds: how long it takes, s.
        noted: nothing draws otherwise since the flows were noted.

    Returns:
        (multiple of the rating, multiple that is carried for so long, node); no node where none judges.
    """
    worst: tuple[float, float, Node | None] = (0.0, 1.0, None)
    for node, leg in load.path:
        if node.curve is not None:
            carried = node.curve.carried_multiple(seconds)
            va = node.va if noted else node.now().va()
            multiple = start_multiple(va, leg, start_va, node.leg_va, node.total_va)
            if worst[2] is None or multiple / carried > worst[0] / worst[1]:
                worst = (multiple, carried, node)
    return worst


def _start_one(run: OutageRun, t: float, load: ConnectedLoad) -> tuple[Carrier, ConnectedLoad] | None:
    seconds = load.start.seconds if load.start else 0.5
    multiple, carried, node = hardest(load, load.start_va(t), seconds, noted=False)
    if node is not None:
        run.out.start(t, load, multiple, carried, node)
    draw(run, t, load, load.demand.watts)
    if isinstance(node, Carrier) and multiple > carried * (1 + SLACK):
        return node, load
    if isinstance(node, Carrier) and multiple > DIP_FROM * carried:
        _dip(run, t, load, node, multiple / carried)
    return None


def _start_together(
    run: OutageRun, t: float, starting: list[ConnectedLoad]
) -> tuple[Carrier, ConnectedLoad] | None:
    """Everything at one instant: volt-amperes of all starts add, for the longest of their times."""
    biggest = max(starting, key=lambda load: load.start_va(t))
    seconds = max(load.start.seconds for load in starting if load.start)
    rest = [load for load in starting if load is not biggest]
    for load in rest:
        load.draw(t, load.start_va(t))
    multiple, carried, node = hardest(biggest, biggest.start_va(t), seconds, noted=False)
    if node is not None:
        run.out.start(t, biggest, multiple, carried, node)
    for load in starting:
        draw(run, t, load, load.demand.watts)
    over = isinstance(node, Carrier) and multiple > carried * (1 + SLACK)
    return (node, biggest) if over and isinstance(node, Carrier) else None


def _dip(run: OutageRun, t: float, cause: ConnectedLoad, node: Carrier, share: float) -> None:
    dropped = [
        load
        for load in run.loads
        if load.load.drops_on_dip
        and load.draw_w > 0
        and load is not cause
        and any(item is node for item, _ in load.path)
    ]
    for load in dropped:
        load.needs_hand = True
        load.hand_at = run.presence.next(t + run.plan.strategy.reset_after_s)
        run.hand_at = min(run.hand_at, load.hand_at)
        run.set_power(t, load, False)
        load.draw(t, 0.0)
    if dropped:
        run.out.dip(t, cause, dropped, share)
