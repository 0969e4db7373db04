"""In which order circuits come back, so that every start finds room."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from weary_cedar.core.network import Network, Way
from weary_cedar.core.network.carrying import NOTHING, Bearer, Draw, bearer, running, starting

#: Up to so many branches every order is looked at, by sets; more are brought back by the largest start first.
SEARCHED = 14


@dataclass(frozen=True)
class Branch:
    """What a circuit draws once it is on, and at the moment at which it comes on."""

    runs: Draw
    starts: Draw


@dataclass(frozen=True)
class BackOn:
    """Circuits in the order in which they come back, and those that have to stay off."""

    order: tuple[str, ...]
    stay_off: tuple[str, ...]


def bring_back(network: Network, way: Way) -> BackOn:
    """The order in which a way's circuits come back.

    Args:
        network: of the plan.
        way: what feeds them.

    Returns:
        All of them where any order keeps every start and what runs within what the way carries; else as
        many as can be, those marked room and last in order left off first.

    Source: common practice, biggest start while the inverter is empty; see `fitting_order`.
    """
    branches = {key: of_branch(network, way, key) for key in sorted(way.branches)}
    return chosen(branches, network.given_up_first(way.branches), bearer(network, way))


def return_order(network: Network, way: Way, wanted: Sequence[str]) -> list[str]:
    """The order in which someone at the panel brings circuits back.

    Args:
        network: of the plan.
        way: what feeds them.
        wanted: its circuits in the person's order.

    Returns:
        That order where every start finds room in it, or where no order has room for all; else the one in
        which all find room, as the sheets tell it.

    Source: see `fitting_order`.
    """
    branches = {key: of_branch(network, way, key) for key in wanted}
    bears = bearer(network, way)
    if _fits(wanted, branches, bears, NOTHING):
        return list(wanted)
    return fitting_order(branches, bears) or list(wanted)


def of_branch(network: Network, way: Way, key: str) -> Branch:
    """What a branch of a way starts and runs with."""
    return Branch(running(network, way, key), starting(network, way, key))


def chosen(branches: Mapping[str, Branch], last_first: Sequence[str], bears: Bearer) -> BackOn:
    """As many branches as any order brings back, and their order.

    Args:
        branches: what each runs and starts with.
        last_first: the same keys, those that are left off first before the others.
        bears: what carries them.
    """
    kept = dict(branches)
    off: list[str] = []
    for key in last_first:
        order = fitting_order(kept, bears)
        if order is not None:
            return BackOn(tuple(order), tuple(off))
        off.append(key)
        del kept[key]
    return BackOn((), tuple(off))


def fitting_order(branches: Mapping[str, Branch], bears: Bearer, already: Draw = NOTHING) -> list[str] | None:
    """An order in which every start finds room, if there is one.

    Args:
        branches: what each runs and starts with.
        bears: what carries them.
        already: what runs before the first of them.

    Returns:
        Keys in order; nothing where no order works. Largest (start − running) first is tried before all:
        with one limit no other order works where that does not. With two legs and a total every set of
        up to 14 branches is looked at, for whether one more can join it depends on the set alone; none where
        what runs after the last is too much.

    Source: exchange argument for one limit; the search over sets is exact.
    """
    greedy = sorted(branches, key=lambda key: (-_surge(branches[key]), key))
    if _fits(greedy, branches, bears, already):
        return greedy
    if len(branches) > SEARCHED or bears.over(_all_running(branches, already)):
        return None
    return _searched(greedy, branches, bears, already)


def _surge(branch: Branch) -> float:
    return max(branch.starts.a - branch.runs.a, branch.starts.b - branch.runs.b)


def _all_running(branches: Mapping[str, Branch], already: Draw) -> Draw:
    """What runs after the last start: in whatever order they came, it has to be carried."""
    a = already.a + sum(branch.runs.a for branch in branches.values())
    return Draw(a, already.b + sum(branch.runs.b for branch in branches.values()))


def _joins(on: Draw, branch: Branch, bears: Bearer) -> Draw | None:
    """What runs once a branch has joined, or nothing where it cannot."""
    start = Draw(on.a + branch.starts.a, on.b + branch.starts.b, branch.starts.seconds)
    after = on.plus(branch.runs)
    lasts = Draw(after.a, after.b)
    return None if bears.over(start) or bears.over(lasts) else lasts


def _fits(order: Sequence[str], branches: Mapping[str, Branch], bears: Bearer, already: Draw) -> bool:
    on = already
    for key in order:
        after = _joins(on, branches[key], bears)
        if after is None:
            return False
        on = after
    return True


def _searched(
    keys: Sequence[str], branches: Mapping[str, Branch], bears: Bearer, already: Draw
) -> list[str] | None:
    reached: dict[frozenset[str], tuple[Draw, list[str]]] = {frozenset(): (already, [])}
    for _ in keys:
        further: dict[frozenset[str], tuple[Draw, list[str]]] = {}
        for held, (on, order) in reached.items():
            for key in keys:
                if key in held or held | {key} in further:
                    continue
                after = _joins(on, branches[key], bears)
                if after is not None:
                    further[held | {key}] = (after, [*order, key])
        reached = further
    return next((order for _, order in reached.values()), None)
