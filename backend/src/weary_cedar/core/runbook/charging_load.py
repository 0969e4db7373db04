"""Charging as a load with a size on the source that it comes from, with all that is passed through."""

from collections.abc import Iterator, Mapping

from weary_cedar.core.handles.conductors import Conductors
from weary_cedar.core.handles.faults import Fault, fault
from weary_cedar.core.network.carrying import ROUNDING, running
from weary_cedar.core.plan import ToInput
from weary_cedar.core.plan.lead import SourceKind
from weary_cedar.core.runbook.charge_rate import charge_w, source_w

Source = tuple[SourceKind, str]


def charges(joined: Conductors) -> dict[str, Source]:
    """Leads through which something charges from a source that gives, and from which."""
    return {
        key: (lead.source.kind, lead.source.id)
        for key, lead in joined.plan.leads.items()
        if isinstance(lead.to, ToInput) and lead.source.kind != "circuit" and joined.plugged(key)
        if joined.gives(f"source/{lead.source.kind}/{lead.source.id}")
    }


def overcharged(joined: Conductors, live: Mapping[str, str]) -> Fault | None:
    """Whether a source that charges something is to give more than it can, with all that it feeds.

    Args:
        joined: conductors as they are joined.
        live: what has power from which lead.

    Source: ratings of plates; what a station passes through comes on top of its charge.
    """
    plan, by_lead = joined.plan, charges(joined)
    for source in sorted(set(by_lead.values())):
        own = [plan.leads[key] for key, found in by_lead.items() if found == source]
        charge, rated = sum(charge_w(plan, lead) for lead in own), source_w(plan, *source)
        watts = charge + sum(_fed_by(joined, live, source, frozenset()))
        if watts > rated * (1 + ROUNDING):
            name = plan.room_of(source[0])[source[1]].name
            return fault("over_charge", source=name, watts=watts, charge=charge, rated=rated)
    return None


def _fed_by(
    joined: Conductors, live: Mapping[str, str], source: Source, above: frozenset[str]
) -> Iterator[float]:
    """What runs on a source, VA: its own branches, and what stations that it charges pass through."""
    plan = joined.plan
    for branch, lead_id in live.items():
        hookup = plan.hookups[lead_id]
        if (hookup.source_kind, hookup.source_id) == source:
            yield running(joined.network, joined.network.way(lead_id), branch).total
    for key, found in charges(joined).items():
        end = plan.leads[key].to
        if found == source and key not in above and isinstance(end, ToInput):
            entry = plan.stations[end.station_id].ac_inputs.get(end.input_id)
            if entry is not None and entry.passes:
                yield from _fed_by(joined, live, ("station", end.station_id), above | {key})
