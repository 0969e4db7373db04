"""Stations that charge from what they feed, at once or through any number of others."""

from collections.abc import Iterator

from weary_cedar.core.network import Network


def circles(network: Network) -> Iterator[tuple[str, ...]]:
    """Every lead through which a station charges, in the outage, from what it feeds.

    Args:
        network: of the plan.

    Returns:
        That lead, and then all others of the shortest circle: those that charge, and those that feed.

    Source: exact; leads that are plugged in with the utility only are out of it.
    """
    recharges = network.plan.recharges
    for key, recharge in recharges.items():
        if recharge.plugged == "grid":
            continue
        seen: set[str] = set()
        before = [(station, (key, *leads)) for station, leads in _above(network, key)]
        while before:
            station, leads = before.pop(0)
            if station == recharge.station_id:
                yield leads
                break
            if station not in seen:
                seen.add(station)
                others = (k for k, other in recharges.items() if other.station_id == station)
                for other in (k for k in others if recharges[k].plugged != "grid"):
                    before += [(up, (*leads, other, *more)) for up, more in _above(network, other)]


def _above(network: Network, lead_id: str) -> Iterator[tuple[str, tuple[str, ...]]]:
    """Stations that feed what a charging lead hangs on, with the leads by which they do."""
    plan, recharge = network.plan, network.plan.recharges[lead_id]
    if recharge.kind == "station":
        yield recharge.from_id, ()
    elif recharge.kind == "circuit":
        for key, hookup in plan.hookups.items():
            if recharge.from_id in network.reached(hookup):
                for unit in plan.source_units(hookup):
                    yield unit, (key,)
