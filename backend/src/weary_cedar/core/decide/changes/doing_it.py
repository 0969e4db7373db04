"""Changes of what people do, of how things are joined, and of what a station is set to."""

from collections.abc import Iterator
from typing import Final

from weary_cedar.core.decide.balance import least_lean, with_moves
from weary_cedar.core.decide.changes.change import AT_ONCE, Change, Seen, names
from weary_cedar.core.errors import WearyCedarError

#: Someone who practised changes over in this time, s. Common practice.
PRACTISED_S: Final = 300.0


def sooner(seen: Seen) -> Iterator[Change]:
    """The change-over takes less time."""
    if seen.plan.outage.changeover_after_s > PRACTISED_S and seen.plan.hookups:
        patch = {"outage": {"changeover_after_s": PRACTISED_S}}
        yield Change("Change over within 5 min: practise it with the sheet in hand", patch)


def swap_legs(seen: Seen) -> Iterator[Change]:
    """Linked units change their legs: the fuller, or the larger, goes to the heavier leg."""
    for key, link in seen.plan.links.items():
        if link.kind == "two_legs":
            patch = seen.with_part("links", key, leg_a=link.leg_b, leg_b=link.leg_a)
            yield Change(f"Swap the legs of {link.name}", patch)


def balance(seen: Seen) -> Iterator[Change]:
    """One or two breakers change places, so that the legs carry alike."""
    plan = seen.plan
    if not plan.site.split_phase:
        return
    fed = {plan.circuits[key].panel_id for key in seen.network.carried}
    for panel_id in sorted(fed):
        try:
            found = least_lean(plan, panel_id, "energy", 2)
        except WearyCedarError:
            continue
        for one in found[1:]:
            if one.moves and one.lean < found[0].lean - 0.02:
                moved = with_moves(plan, one.moves)
                keys = [move.circuit_id for move in one.moves]
                circuits = {key: {"spaces": list(moved.circuits[key].spaces)} for key in keys}
                labels = names([move.label for move in one.moves])
                yield Change(f"Move {labels} to the other leg", {"circuits": circuits}, minutes_day=0.5)


def keep_it_awake(seen: Seen) -> Iterator[Change]:
    """A station does not turn its output off by itself."""
    if seen.happens("idle_cutout"):
        for key, station in seen.plan.stations.items():
            if station.cuts_out is not None:
                patch = seen.with_part("stations", key, idle_cutout=None)
                yield Change(f"Disable the automatic turn-off of {station.name}", patch)


def let_it_shed(seen: Seen) -> Iterator[Change]:
    """Someone turns heavy loads off before something trips."""
    if seen.happens("trip") and seen.plan.strategy.shedding == "none":
        patch = {"strategy": {"shedding": "by_hand"}}
        yield Change("Turn heavy loads off as soon as the display shows too much", patch, minutes_day=5.0)


def one_at_a_time(seen: Seen) -> Iterator[Change]:
    """Breakers come back one at a time."""
    if seen.happens(*AT_ONCE) and seen.plan.outage.restore == "all_at_once":
        patch = {"outage": {"restore": "one_at_a_time"}}
        yield Change("Close the breakers one at a time", patch, minutes_day=1.0)


MAKERS: Final = (sooner, swap_legs, balance, keep_it_awake, let_it_shed, one_at_a_time)
