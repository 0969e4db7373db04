"""What must never be, however the house came to stand so."""

from collections.abc import Iterator

from weary_cedar.core.handles.bonds import misjoined
from weary_cedar.core.handles.conductors import UTILITY, Conductors
from weary_cedar.core.handles.faults import Fault, fault
from weary_cedar.core.handles.supplies import meetings
from weary_cedar.core.plan import ToInput


def standing(joined: Conductors, live: dict[str, str]) -> Fault | None:
    """The gravest thing that is unsafe about how a house stands, if anything.

    Args:
        joined: conductors as they are joined.
        live: what has power from which lead.
    """
    return next(_all(joined, live), None)


def _all(joined: Conductors, live: dict[str, str]) -> Iterator[Fault]:
    yield from meetings(joined)
    yield from _bonds(joined)
    yield from _misjoined(joined)
    yield from _pairs(joined)
    yield from _loops(joined, live)
    yield from _kits(joined, live)
    yield from _by_themselves(joined)


def _bonds(joined: Conductors) -> Iterator[Fault]:
    for key, hookup in joined.plan.hookups.items():
        tied = joined.at.get(f"bonding_plug/{key}") == "in" and hookup.kind != "cords"
        if tied and hookup.neutral_switched != "yes" and joined.plugged(key):
            yield fault("two_bonds")


def _misjoined(joined: Conductors) -> Iterator[Fault]:
    """A source with too few bonds, or a ground-fault device between two, as it stands: its plug in or out."""
    yield from (fault(code, source=name) for code, name in misjoined(joined))


def _pairs(joined: Conductors) -> Iterator[Fault]:
    """Two circuits that share a neutral stay on one supply."""
    for key, feed in joined.plan.feeds.items():
        for circuit_id in feed.circuit_ids if feed.traits.moves == "handles" else ():
            partner = joined.plan.partner_of(circuit_id)
            own = joined.at[f"handle/{key}/{circuit_id}"]
            if partner is None or own != "source":
                continue
            if joined.at.get(f"handle/{key}/{partner}", UTILITY) == UTILITY:
                yield fault("pair_apart")


def _charging(joined: Conductors, live: dict[str, str]) -> Iterator[tuple[str, set[str] | None]]:
    """Stations that charge just now, with the units that they charge from; none of the utility."""
    plan = joined.plan
    for key, lead in plan.leads.items():
        if not isinstance(lead.to, ToInput) or not joined.plugged(key):
            continue
        source = lead.source
        if source.kind != "circuit":
            if joined.gives(f"source/{source.kind}/{source.id}"):
                link = plan.links.get(source.id) if source.kind == "link" else None
                yield lead.to.station_id, {link.leg_a, link.leg_b} if link else {source.id}
        elif source.id in live:
            yield lead.to.station_id, set(plan.source_units(plan.hookups[live[source.id]]))
        elif joined.on_utility(source.id):
            yield lead.to.station_id, None


def _loops(joined: Conductors, live: dict[str, str]) -> Iterator[Fault]:
    """A station that charges from what it feeds, at once or through any number of others."""
    above: dict[str, set[str]] = {}
    for station_id, units in _charging(joined, live):
        above.setdefault(station_id, set()).update(units or ())
    for station_id, units in above.items():
        if station_id in units:
            yield fault("charger_on_itself")
            continue
        reached, rest = set(units), list(units)
        while rest:
            new = above.get(rest.pop(), set()) - reached
            reached |= new
            rest += new
        if station_id in reached:
            yield fault("charging_circle", station=joined.plan.stations[station_id].name)


def _kits(joined: Conductors, live: dict[str, str]) -> Iterator[Fault]:
    """A linked unit that is charged while its kit, on, refuses that, or drops its outputs."""
    charged = {station_id for station_id, _ in _charging(joined, live)}
    for key, link in joined.plan.links.items():
        if charged.isdisjoint((link.leg_a, link.leg_b)) or not joined.gives(f"source/link/{key}"):
            continue
        if link.ac_charging == "refused":
            yield fault("kit_refuses", link=link.name)
        elif link.ac_charging == "drops_output":
            yield fault("kit_drops", link=link.name)


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
