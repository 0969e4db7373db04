"""The short way through a moment at which one load draws otherwise and nothing else happens.

Most moments of a run are of this kind. Whatever is not surely of it goes the long way, and what goes the
short way is left as the long way would leave it.
"""

from __future__ import annotations

import math
from typing import TYPE_CHECKING, Final

from weary_cedar.core.outage.shedding import plainly_fits
from weary_cedar.core.outage.starts import DIP_FROM, draw, hardest
from weary_cedar.core.outage.thresholds import thresholds

if TYPE_CHECKING:
    from weary_cedar.core.outage.connected import ConnectedLoad
    from weary_cedar.core.outage.kernel import OutageRun
    from weary_cedar.core.outage.tree import Carrier

NEVER: Final = math.inf


def only_draws(run: OutageRun, t: float, load: ConnectedLoad) -> bool:
    """Let one load draw what it wants now.

    Args:
        run: at a moment at which nothing else is due.
        t: the moment, s.
        load: the one load that came to its own next moment.

    Returns:
        Whether that was all; if not, nothing was done, and the moment goes the long way.
    """
    if run.rewired or run.touched or run.any_shed or run.exclusives:
        return False
    watts = load.demand.watts if load.powered else 0.0
    way, before_w = load.way, load.draw_w
    if watts == before_w:
        run.out.row(t, run)
        return True
    if way is None or way.stale:
        return False
    carrier = way.carrier
    if not carrier.alone and not (run.share_at == NEVER and _takes_all(carrier)):
        return False
    if watts > 0 and not _fits(run, t, load, before_w):
        return False
    run.touch(carrier, t)
    draw(run, t, load, watts)
    if watts > before_w:
        load.circuit.note_current(run.leg_volts)
    run.flows.carry(t, carrier)
    if not carrier.alone and not _takes_all(carrier):
        run.power(t)
        return True
    thresholds(run, t, carrier)
    run.out.row(t, run)
    run.note_due(carrier)
    return True


def _takes_all(carrier: Carrier) -> bool:
    """Whether a carrier gives from cells that take all of what is offered: nothing else minds its draw."""
    if carrier.via is not None or carrier.feeds_chargers:
        return False
    return all(unit.regime == "flows" for unit in carrier.units)


def _fits(run: OutageRun, t: float, load: ConnectedLoad, before_w: float) -> bool:
    """Whether nothing has to go for more that is drawn, and its start dims nothing."""
    if run.shedding == "automatic" and not plainly_fits(run, t):
        return False
    start = load.start
    if start is not None and load.demand.begins(before_w):
        multiple, carried, node = hardest(load, load.start_va(t), start.seconds, noted=True)
        if node is None:
            return True
        if multiple > DIP_FROM * carried:
            return False
        run.out.start(t, load, multiple, carried, node)
    return True
