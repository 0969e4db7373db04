"""The shortest order of acts by which a hand gets from a house on the utility into a danger."""

from collections.abc import Iterable, Mapping

from weary_cedar.core.handles.conductors import UTILITY, Conductors, node_of
from weary_cedar.core.handles.dangers import HandleMove
from weary_cedar.core.handles.elements import Element
from weary_cedar.core.handles.mechanisms import forbidden, moved
from weary_cedar.core.network import Network

#: Kinds of handles that decide what meets on conductors.
DECIDING = ("main", "interlock", "feed_breaker", "transfer", "source_end", "load_end", "output", "engine")


def ends_of(leads: Iterable[str], to: str) -> dict[str, str]:
    """Both ends of some leads, in or out."""
    return {f"{end}/{key}": to for key in leads for end in ("source_end", "load_end")}


def way_to(
    network: Network,
    elements: Mapping[str, Element],
    begins: Mapping[str, str],
    danger: Mapping[str, str],
    code: str,
    leads: tuple[str, ...],
) -> tuple[HandleMove, ...] | None:
    """An order of acts into a danger, that moves no handle without need; none where no order is allowed."""
    target = dict(danger)
    if code == "live_blades":
        target |= ends_of(leads, "out")
    moves = {key: to for key, to in target.items() if begins[key] != to and key.partition("/")[0] in DECIDING}
    hookups = [network.plan.hookups[key] for key in leads]
    named = {*leads, *(str(hookup.feed_id) for hookup in hookups), *(hookup.panel_id for hookup in hookups)}
    near = {
        key: to for key, to in moves.items() if key.split("/")[-1] in named | {h.source_id for h in hookups}
    }
    if _harms(network, {**begins, **near}, code, leads) and _allowed(network, begins, near) is not None:
        moves = near
    for key in sorted(moves, key=_needless_first):
        rest = {other: to for other, to in moves.items() if other != key}
        if _harms(network, {**begins, **rest}, code, leads) and _allowed(network, begins, rest) is not None:
            moves = rest
    order = _allowed(network, begins, moves)
    if order is None:
        return None
    return tuple(HandleMove(what=key, to=to, name=elements[key].name) for key, to in order)


def _needless_first(key: str) -> tuple[bool, str]:
    """Outputs and engines before all else: most dangers are there before a source gives."""
    return key.partition("/")[0] not in ("output", "engine"), key


def _harms(network: Network, at: Mapping[str, str], code: str, leads: tuple[str, ...]) -> bool:
    """Whether a danger is there already, with these leads in it."""
    joined = Conductors(network, at)
    group = joined.group_of(f"inlet/{network.plan.hookups[leads[0]].feed_id}")
    if code == "live_blades":
        plugged = any(map(joined.plugged, joined.leads_to(str(network.plan.hookups[leads[0]].feed_id))))
        return not plugged and (UTILITY in group or bool(joined.giving(group)))
    if not all(map(joined.plugged, leads)):
        return False
    nodes = [node_of(network.plan.hookups[key]) for key in leads]
    if code == "back_feed":
        return UTILITY in group and nodes[0] in group
    return all(node in group for node in nodes) and any(map(joined.gives, nodes))


def _allowed(
    network: Network, begins: Mapping[str, str], moves: Mapping[str, str]
) -> list[tuple[str, str]] | None:
    """The moves in an order in which nothing is in the way of any, if there is one.

    No move takes away what another needs: whatever can be done is done, cords before breakers. A transfer
    switch goes by its middle.
    """
    at, left = dict(begins), dict(moves)
    order: list[tuple[str, str]] = []
    while left:
        joined = Conductors(network, at)
        done = next(
            (key for key in sorted(left, key=_hands_order) if not _stopped(joined, key, left[key])), None
        )
        if done is None:
            return None
        at[done] = left.pop(done)
        order += [(done, "off")] * done.startswith("transfer/") + [(done, at[done])]
    return order


#: What a hand does first: it plugs from the far end, then opens, then closes; sources come on at the end.
HANDS = ("load_end", "source_end", "interlock", "feed_breaker", "transfer", "main", "engine", "output")


def _hands_order(key: str) -> tuple[int, str]:
    return HANDS.index(key.partition("/")[0]), key


def _stopped(joined: Conductors, key: str, to: str) -> bool:
    """Whether a mechanism, or the order in which a cord is handled, is in the way of a move."""
    kind, _, of = key.partition("/")
    if forbidden(joined.plan, joined.at, key, to) is not None:
        return True
    if kind in ("source_end", "load_end"):
        return moved(joined, kind, of, to) is not None
    return False
