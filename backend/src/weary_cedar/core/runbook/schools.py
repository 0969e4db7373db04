"""Schools of closing: which branches are off before, whether the output is on before, what comes first.

Where practitioners disagree the plan says which school is followed. It is followed as far as the source
carries what comes on at once; where it does not, the careful one is, and the sheet says so.
"""

from collections.abc import Iterable
from dataclasses import dataclass

from weary_cedar.core.network import LEG_A, LEG_B, Network, Way
from weary_cedar.core.network.bringing_back import BackOn, bring_back, fitting_order, of_branch
from weary_cedar.core.network.carrying import NOTHING, Draw, bearer, on_va
from weary_cedar.core.plan import Plan

#: A load from this on is a large one, VA. Common practice: what takes more than half of a small circuit.
LARGE_VA = 900.0
SMALL_ON = "the small ones stay on"
ALL_OFF = "all branches are turned off instead"


@dataclass(frozen=True)
class Shows:
    """What shows under load how a leg stands: a circuit of lamps, or one into which a lamp is plugged."""

    leg: str
    branch: str
    lamps: bool


@dataclass(frozen=True)
class WayBack:
    """What stays on while the source is joined, what comes back then in which order, and what never."""

    left_on: tuple[str, ...]
    order: tuple[str, ...]
    stay_off: tuple[str, ...]
    notes: tuple[str, ...] = ()
    shows: tuple[Shows, ...] = ()


def way_back(network: Network, way: Way, *, leave_on: bool) -> WayBack:
    """How a way's circuits come back, by the school of its feed.

    Args:
        network: of the plan.
        way: what feeds them.
        leave_on: whether any may stay on while the source is joined; else all come back one at a time.

    Returns:
        Circuits that may be left on, the order of the others, those without room, in words where the
        school could not be followed, and what shows how each leg stands under load: that comes first.

    Source: common practice; three schools (all branches off, only the large ones, none).
    """
    found = bring_back(network, way)
    left, notes = _left_on(network, way, found) if leave_on else ([], [])
    order = [key for key in found.order if key not in left]
    shows = _shows(network, way, [*left, *order])
    lamps = _lamps(network, way, left)
    if way.hookup.light_first and len(order) > 1 and not lamps and not _any_lamp(network, left):
        notes.append("No circuit has lamps alone: the largest start comes first.")
    firsts = [one.branch for one in shows if one.branch in order]
    if lamps and way.hookup.light_first:
        firsts = list(dict.fromkeys([*lamps, *firsts]))
    if firsts and len(order) > 1:
        first = _after(network, way, left, firsts, order)
        if first is None:
            notes.append("With the lamps on first the others find no room: the largest start comes first.")
        else:
            order = first
    return WayBack(tuple(left), tuple(order), found.stay_off, tuple(notes), shows)


def _shows(network: Network, way: Way, among: list[str]) -> tuple[Shows, ...]:
    """By leg what shows how it stands under load: lamps alone, else the smallest without a motor."""
    if way.single or not network.plan.site.split_phase:
        return ()
    found = []
    for leg, at in (("leg A", LEG_A), ("leg B", LEG_B)):
        of_leg = sorted(key for key in among if way.branches.get(key) == at and _calm(network, key))
        lamps = [key for key in of_leg if _of_lamps(network, key)]
        others = sorted(of_leg, key=lambda key: of_branch(network, way, key).runs.total)
        found += [Shows(leg, key, bool(lamps)) for key in (lamps or others)[:1]]
    return tuple(found)


def _calm(network: Network, branch: str) -> bool:
    """Whether nothing on a branch starts a motor."""
    loads = (network.plan.loads[key] for key in network.loads_of([branch]))
    return not any(load.start or load.compressor for load in loads)


def _left_on(network: Network, way: Way, found: BackOn) -> tuple[list[str], list[str]]:
    school, panel = way.hookup.branches_off, joins_a_panel(way)
    if school == "all" or not panel:
        return [], []
    smalls = [key for key in found.order if not is_large(network.plan, network, key)]
    wanted = [(list(found.order), SMALL_ON)] if school == "none" else []
    wanted.append((smalls, ALL_OFF))
    notes: list[str] = []
    for keys, instead in wanted:
        rest = [key for key in found.order if key not in keys]
        if _fits_at_once(network, way, keys) and _after(network, way, keys, [], rest) is not None:
            return keys, notes
        notes.append(f"What would come on at once is more than the source carries: {instead}.")
    return [], notes


def joins_a_panel(way: Way) -> bool:
    """Whether one act puts a whole panel under power."""
    return way.hookup.traits.joins_panel and not way.hookup.traits.refused


def is_large(plan: Plan, network: Network, branch: str) -> bool:
    """Whether a circuit is a large one: two poles, a motor's start, or a large load."""
    loads = [plan.loads[key] for key in network.loads_of([branch])]
    circuit = plan.circuits.get(branch)
    two = plan.site.split_phase and circuit is not None and circuit.poles > 1
    return two or any(load.start or load.compressor or on_va(load) >= LARGE_VA for load in loads)


def _sum(network: Network, way: Way, keys: Iterable[str], *, starts: bool) -> Draw:
    on = NOTHING
    for key in keys:
        branch = of_branch(network, way, key)
        on = on.plus(branch.starts if starts else branch.runs)
    return on


def _fits_at_once(network: Network, way: Way, keys: list[str]) -> bool:
    bears = bearer(network, way)
    start, runs = _sum(network, way, keys, starts=True), _sum(network, way, keys, starts=False)
    return not bears.over(start) and not bears.over(Draw(runs.a, runs.b))


def _after(
    network: Network, way: Way, left: list[str], first: list[str], order: list[str]
) -> list[str] | None:
    """An order of the others behind those that are on, some of them first; none where none works."""
    bears, on = bearer(network, way), _sum(network, way, left, starts=False)
    found: list[str] = []
    for keys in ([key for key in order if key in first], [key for key in order if key not in first]):
        part = fitting_order({key: of_branch(network, way, key) for key in keys}, bears, Draw(on.a, on.b))
        if part is None:
            return None
        found += part
        on = on.plus(_sum(network, way, part, starts=False))
    return found


def _of_lamps(network: Network, branch: str) -> bool:
    loads = [network.plan.loads[key] for key in network.loads_of([branch])]
    return bool(loads) and all(load.role == "light" for load in loads)


def _any_lamp(network: Network, left: list[str]) -> bool:
    return any(_of_lamps(network, key) for key in left)


def _lamps(network: Network, way: Way, left: list[str]) -> list[str]:
    """The first circuit of lamps alone, where it does not stay on anyway."""
    lamps = [key for key in sorted(way.branches) if _of_lamps(network, key)]
    return [] if any(key in left for key in lamps) else lamps[:1]
