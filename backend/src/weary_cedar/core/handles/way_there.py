"""The shortest order of acts by which a hand gets from a house on the utility into a danger."""

from collections.abc import Iterable, Mapping

from weary_cedar.core.handles.conductors import UTILITY, Conductors, node_of
from weary_cedar.core.handles.dangers import HandleMove
from weary_cedar.core.handles.elements import Element
from weary_cedar.core.handles.mechanisms import forbidden, moved
from weary_cedar.core.network import Network

#: Dangers that are there as soon as all their leads feed.
STANDING = ("no_bond", "device_between", "charging_circle")
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
    elif code in STANDING:
        target |= ends_of(leads, "in") | _handles_of(network, leads)
    moves = {key: to for key, to in target.items() if begins[key] != to and key.partition("/")[0] in HANDS}
    hookups = [network.plan.hookups[key] for key in leads if key in network.plan.hookups]
    named = {*leads, *(str(hookup.feed_id) for hookup in hookups), *(hookup.panel_id for hookup in hookups)}
    named |= {network.plan.leads[key].source.id for key in leads}
    near = {key: to for key, to in moves.items() if named & set(key.split("/")[1:])}
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
    if code in STANDING:
        return _stands(joined, code, leads)
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


def _handles_of(network: Network, leads: Iterable[str]) -> dict[str, str]:
    """One handle of each transfer switch among some leads, to its source: one circuit is enough."""
    hookups = [network.plan.hookups[key] for key in leads if key in network.plan.hookups]
    switches = [hookup for hookup in hookups if hookup.traits.moves == "handles"]
    return {f"handle/{h.feed_id}/{circuit}": "source" for h in switches for circuit in h.circuit_ids[:1]}


def _stands(joined: Conductors, code: str, leads: tuple[str, ...]) -> bool:
    """Whether every lead is in at both ends and joined to what it ends at; power matters to what charges."""
    for key in leads:
        source, hookup = joined.plan.leads[key].source, joined.plan.hookups.get(key)
        powered = (hookup is None or code == "charging_circle") and source.kind != "circuit"
        if not joined.plugged(key) or (powered and not joined.gives(f"source/{source.kind}/{source.id}")):
            return False
        if hookup is not None and hookup.feed_id is not None and not joined.closed(hookup.feed_id):
            return False
    return True


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
        order += [(done, "off")] * done.startswith(("transfer/", "handle/")) + [(done, at[done])]
    return order


#: What a hand does first: it plugs from the far end, then opens, then closes; sources come on at the end.
HANDS = (
    "load_end", "source_end", "interlock", "feed_breaker", "transfer", "handle", "main", "engine", "output",
)  # fmt: skip


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
