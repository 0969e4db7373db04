"""Which loads must go so that what remains fits at every node on its path, and which may come back."""

from collections.abc import Sequence

from weary_cedar.core.network import LEG_A, LEG_B
from weary_cedar.core.outage.connected import ConnectedLoad
from weary_cedar.core.outage.leg_sums import SLACK, LegSums
from weary_cedar.core.outage.tree import Node

#: A load that was shed for a limit stays off at least this long, s: no chattering.
MIN_OFF_S = 600.0

#: A limit that is exceeded: the node, and whether on leg A, on leg B, in total.
Violation = tuple[Node, bool, bool, bool]


class Fitter:
    """Fits wishes under limits: the last in rank that relieves a violated limit goes first.

    A start that a source does not carry even alone is not worth shedding for: it will trip.
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
            spare: only loads behind this one in rank may go; it itself may go too.

        Returns:
            Loads to shed; empty when all fits.
        """
        staying = list(on)
        gone: list[ConnectedLoad] = []
        helpless: set[int] = set()
        while True:
            found = self._violated(staying, [s for s in starting if s not in gone], t, helpless)
            if not found:
                return gone
            victim = next(
                (
                    load
                    for load in reversed(staying)
                    if _relieves(load, found) and (spare is None or load.rank >= spare.rank)
                ),
                None,
            )
            if victim is None:
                helpless.update(id(item[0]) for item in found)
                continue
            staying.remove(victim)
            gone.append(victim)

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
            if load.load.start is not None:
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


def _relieves(load: ConnectedLoad, found: Sequence[Violation]) -> bool:
    """Whether a load hangs on a violated node, on a leg or in a total that is over."""
    for node, a, b, total in found:
        for item, leg in load.path:
            if item is node and (total or (a and leg != LEG_B) or (b and leg != LEG_A)):
                return True
    return False


def _too_hard(load: ConnectedLoad, node: Node, leg: int, sums: LegSums, t: float) -> bool:
    """Whether a start on top of what runs is not carried, though it would be alone."""
    if node.curve is None or load.load.start is None:
        return False
    carried = node.curve.carried_multiple(load.load.start.seconds) * (1 + SLACK)
    start_va = load.start_va(t)
    alone = LegSums().start_multiple(leg, start_va, node.leg_va, node.total_va)
    return alone <= carried < sums.start_multiple(leg, start_va, node.leg_va, node.total_va)
