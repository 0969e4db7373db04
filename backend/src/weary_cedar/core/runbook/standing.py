"""What must never be, however the house came to stand so."""

from collections.abc import Iterator

from weary_cedar.core.runbook.conductors import UTILITY, Conductors
from weary_cedar.core.runbook.elements import charging_from
from weary_cedar.core.runbook.faults import Fault, fault


def standing(joined: Conductors, live: dict[str, str]) -> Fault | None:
    """The gravest thing that is unsafe about how a house stands, if anything.

    Args:
        joined: conductors as they are joined.
        live: what has power from which lead.
    """
    return next(_all(joined, live), None)


def _all(joined: Conductors, live: dict[str, str]) -> Iterator[Fault]:
    yield from _two_supplies(joined)
    yield from _blades(joined)
    yield from _bonds(joined)
    yield from _pairs(joined)
    yield from _loops(joined, live)
    yield from _by_themselves(joined)


def _two_supplies(joined: Conductors) -> Iterator[Fault]:
    for key, feed in joined.plan.feeds.items():
        if feed.kind == "receptacle_backfeed" and any(map(joined.plugged, joined.leads_to(key))):
            yield fault("house_outlet")
    for group in joined.groups:
        if UTILITY in group and any(node.startswith("source/") for node in group):
            yield fault("back_feed")
        if len(joined.giving(group)) > 1:
            yield fault("two_sources")


def _blades(joined: Conductors) -> Iterator[Fault]:
    """An inlet that is joined to something live, with no cord in it from end to end."""
    for key, feed in joined.plan.feeds.items():
        group = joined.group_of(f"inlet/{key}")
        supplied = UTILITY in group or bool(joined.giving(group))
        if supplied and not any(map(joined.plugged, joined.leads_to(key))):
            yield fault("live_blades", inlet=feed.name or "the inlet")


def _bonds(joined: Conductors) -> Iterator[Fault]:
    for key, hookup in joined.plan.hookups.items():
        tied = joined.at.get(f"bonding_plug/{key}") == "in" and hookup.kind != "cords"
        if tied and hookup.neutral_switched != "yes" and joined.plugged(key):
            yield fault("two_bonds")


def _pairs(joined: Conductors) -> Iterator[Fault]:
    """Two circuits that share a neutral stay on one supply."""
    for key, feed in joined.plan.feeds.items():
        for circuit_id in feed.circuit_ids if feed.kind == "transfer_switch" else ():
            partner = joined.plan.partner_of(circuit_id)
            own = joined.at[f"handle/{key}/{circuit_id}"]
            if partner is None or own != "source":
                continue
            if joined.at.get(f"handle/{key}/{partner}", UTILITY) == UTILITY:
                yield fault("pair_apart")


def _loops(joined: Conductors, live: dict[str, str]) -> Iterator[Fault]:
    for key, lead in joined.plan.leads.items():
        station = charging_from(joined.plan, key)
        feeding = live.get(lead.source.id) if station and joined.plugged(key) else None
        if feeding is not None and station in joined.plan.source_units(joined.plan.hookups[feeding]):
            yield fault("charger_on_itself")


def _by_themselves(joined: Conductors) -> Iterator[Fault]:
    """What feeds in by itself while a source feeds a panel: arrays for the utility, sets that start."""
    for group in joined.groups:
        giving = joined.giving(group)
        if not giving or not any(node.startswith("panel/") for node in group):
            continue
        for key, position in joined.at.items():
            if position == "free" and key.startswith("lockout/array/"):
                yield fault("array_free")
            elif position == "free" and f"source/{key.removeprefix('lockout/')}" not in giving:
                yield fault("standby_free")
