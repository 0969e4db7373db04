"""Which loads must go so that what remains fits at every node on its path, and which may come back."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations
from typing import TYPE_CHECKING, Final

from weary_cedar.core.network import ACROSS, LEG_A, LEG_B
from weary_cedar.core.outage.connected import ConnectedLoad
from weary_cedar.core.outage.leg_sums import SLACK, LegSums, start_multiple
from weary_cedar.core.outage.tree import Node

if TYPE_CHECKING:
    from weary_cedar.core.outage.kernel import OutageRun

NEVER: Final = math.inf
#: Under this share of every limit no search for loads to shed is needed.
CLEAR: Final = 1 - 1e-6
#: A load that was shed for a limit stays off at least this long, s: no chattering.
MIN_OFF_S: Final = 600.0

#: So many loads that matter alike are given up as one set at most, and of so many sets are tried.
MOST_TOGETHER: Final = 3
MOST_ALIKE: Final = 12

#: VA on both legs and in total where nothing is drawn.
NOTHING: Final = (0.0, 0.0, 0.0)

#: A limit that is exceeded: the node, and whether on leg A, on leg B, in total.
Violation = tuple[Node, bool, bool, bool]


class Fitter:
    """Fits wishes under limits and gives up the least that is enough.

    What matters least goes first; of what matters alike the smallest set that makes room, one before three,
    and of sets of one size the one that draws least. A start that a source does not carry even alone is not
    worth shedding for: it will trip.
    """

    def must_go(
        self,
        on: Sequence[ConnectedLoad],
        starting: Sequence[ConnectedLoad],
        t: float,
        spare: ConnectedLoad | None = None,
    ) -> list[ConnectedLoad]:
        """Loads to shed, least important first, so that the rest is within limits and its starts carried.

        Args:
            on: loads that draw or are about to, by rank.
            starting: those of them that start now, by rank.
            t: the moment, s.
            spare: only loads that matter less than this one may go; it itself may go too.

        Returns:
            Loads to shed; empty when all fits.
        """
        staying = list(on)
        gone: list[ConnectedLoad] = []
        helpless: set[int] = set()
        while True:
            found = self._violated(staying, [s for s in starting if s not in gone], t, helpless)
            if not found:
                break
            able = [
                load
                for load in staying
                if _relieves(load, found) and (spare is None or load is spare or load.worth > spare.worth)
            ]
            if not able:
                helpless.update(id(item[0]) for item in found)
                continue
            least = max(load.worth for load in able)
            alike = [load for load in able if load.worth == least]
            for victim in self._fewest(alike, staying, starting, t, helpless):
                staying.remove(victim)
                gone.append(victim)
        return self._needed(gone, staying, starting, t, helpless)

    def _fewest(
        self,
        alike: list[ConnectedLoad],
        staying: list[ConnectedLoad],
        starting: Sequence[ConnectedLoad],
        t: float,
        helpless: set[int],
    ) -> Sequence[ConnectedLoad]:
        """Of loads that matter alike, the smallest set that makes room; else the one that draws most."""
        for size in range(1, MOST_TOGETHER + 1):
            sets = list(combinations(alike, size)) if len(alike) <= MOST_ALIKE or size == 1 else []
            for chosen in sorted(sets, key=_drawn_w):
                rest = [load for load in staying if load not in chosen]
                begin = [load for load in starting if load in rest]
                if not self._violated(rest, begin, t, helpless):
                    return chosen
        return [max(alike, key=lambda load: load.demand.watts)]

    def _needed(
        self,
        gone: list[ConnectedLoad],
        staying: list[ConnectedLoad],
        starting: Sequence[ConnectedLoad],
        t: float,
        helpless: set[int],
    ) -> list[ConnectedLoad]:
        """Of loads that were given up one after the other, those without which there is no room."""
        needed: list[ConnectedLoad] = []
        for load in sorted(gone, key=lambda item: item.rank) if len(gone) > 1 else ():
            more = sorted([*staying, load], key=lambda item: item.rank)
            begin = [item for item in starting if item in more]
            if self._violated(more, begin, t, helpless):
                needed.append(load)
            else:
                staying = more
        return needed[::-1] if len(gone) > 1 else gone

    def _violated(
        self, staying: list[ConnectedLoad], starting: list[ConnectedLoad], t: float, helpless: set[int]
    ) -> list[Violation]:
        sums: dict[int, LegSums] = {}
        nodes: dict[int, Node] = {}
        for load in staying:
            _add(sums, nodes, load, load.demand.watts)
        found: list[Violation] = []
        for key, node in nodes.items():
            over = sums[key].over(node.leg_va, node.total_va)
            if (over[0] or over[1] or over[2]) and key not in helpless:
                found.append((node, *over))
        if found or not starting:
            return found
        for load in reversed(starting):
            _add(sums, nodes, load, -load.demand.watts)
        for load in starting:
            if load.start is not None:
                for node, leg in load.path:
                    if _too_hard(load, node, leg, sums[id(node)], t) and id(node) not in helpless:
                        return [(node, leg != LEG_B, leg != LEG_A, False)]
            _add(sums, nodes, load, load.demand.watts)
        return []


def _add(sums: dict[int, LegSums], nodes: dict[int, Node], load: ConnectedLoad, watts: float) -> None:
    for node, leg in load.path:
        key = id(node)
        if key not in nodes:
            nodes[key] = node
            sums[key] = LegSums()
        sums[key].add(leg, watts, watts * load.q_per_w)


def _drawn_w(loads: Sequence[ConnectedLoad]) -> float:
    """What some loads want to draw, W."""
    return sum(load.demand.watts for load in loads)


def _relieves(load: ConnectedLoad, found: Sequence[Violation]) -> bool:
    """Whether a load hangs on a violated node, on a leg or in a total that is over."""
    for node, a, b, total in found:
        for item, leg in load.path:
            if item is node and (total or (a and leg != LEG_B) or (b and leg != LEG_A)):
                return True
    return False


def _too_hard(load: ConnectedLoad, node: Node, leg: int, sums: LegSums, t: float) -> bool:
    """Whether a start on top of what runs is not carried, though it would be alone."""
    if node.curve is None or load.start is None:
        return False
    carried = node.curve.carried_multiple(load.start.seconds) * (1 + SLACK)
    start_va = load.start_va(t)
    alone = start_multiple(NOTHING, leg, start_va, node.leg_va, node.total_va)
    return alone <= carried < start_multiple(sums.va(), leg, start_va, node.leg_va, node.total_va)


# ---------------------------------------------------------------- in the run


def shed(run: OutageRun, t: float) -> None:
    """Shed what does not fit, as the strategy says, and bring back what fits again."""
    if not run.forest.lit:
        return
    reacts = run.shedding == "by_hand" and any(t >= c.react_at for c in run.carriers)
    if reacts or (run.shedding == "automatic" and not plainly_fits(run, t)):
        for carrier in run.carriers:
            if t >= carrier.react_at:
                run.touch(carrier, t)
                carrier.react_at = NEVER
        wishing = run.wishing()
        starting = [load for load in wishing if load.demand.begins(load.draw_w)]
        gone = run.fitter.must_go(wishing, starting, t)
        for load in gone:
            shed_one(run, t, load)
        if gone:
            run.out.shed(t, gone, run.shedding)
    if run.any_shed:
        _bring_back(run, t)


def plainly_fits(run: OutageRun, t: float) -> bool:
    """Whether the few loads that changed stay clear of every limit, so that no search is needed."""
    if run.rewired:
        return False
    growing = [load for load in run.changed if load.powered and load.demand.watts > load.draw_w]
    if len(growing) > 1:
        return False
    for load in growing:
        starts = load.start if load.demand.begins(load.draw_w) else None
        more = load.demand.watts - load.draw_w
        more_va = more * load.va_per_w
        start_va = load.start_va(t) if starts is not None else 0.0
        for node, leg in load.path:
            a_va, b_va, total = node.va
            share = 0.5 if leg == ACROSS else 1.0
            on_leg = max(a_va if leg != LEG_B else 0.0, b_va if leg != LEG_A else 0.0)
            if starts is not None and node.curve is not None:
                carried = node.curve.carried_multiple(starts.seconds)
                most = max((on_leg + share * start_va) / node.leg_va, (total + start_va) / node.total_va)
                if most > CLEAR * carried:
                    return False
            if max((on_leg + share * more_va) / node.leg_va, (total + more_va) / node.total_va) >= CLEAR:
                return False
            if max(a_va, b_va) / node.leg_va >= CLEAR:
                return False
    return True


def shed_one(run: OutageRun, t: float, load: ConnectedLoad) -> None:
    """Switch one load off for now."""
    load.shed_since = t
    run.any_shed = True
    run.set_power(t, load, False)
    run.retry_at = min(run.retry_at, _presence_for_hands(run, t + MIN_OFF_S))


def _presence_for_hands(run: OutageRun, t: float) -> float:
    return run.presence.next(t) if run.shedding == "by_hand" else t


def _bring_back(run: OutageRun, t: float) -> None:
    """Let shed loads back that have been off long enough and fit, the most important first.

    Those that do not fit yet are looked at again whenever something changes.
    """
    run.retry_at = NEVER
    for load in run.loads:
        if load.shed_since is None:
            continue
        due = _presence_for_hands(run, max(t, load.shed_since + MIN_OFF_S))
        if due > t:
            run.retry_at = min(run.retry_at, due)
            continue
        shed_since, load.shed_since = load.shed_since, None
        if not run.may_run(load):
            continue
        load.shed_since = shed_since
        wishing = sorted([*run.wishing(), load], key=lambda item: item.rank)
        starting = [item for item in wishing if item.demand.begins(item.draw_w)]
        gone = run.fitter.must_go(wishing, starting, t, spare=load)
        if load in gone:
            continue
        for victim in gone:
            shed_one(run, t, victim)
        load.shed_since = None
        run.set_power(t, load, True)
        run.out.back(t, load, gone)
    run.any_shed = any(load.shed_since is not None for load in run.loads)
