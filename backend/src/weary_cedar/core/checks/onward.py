"""What a source passes on: stations that it recharges, what they carry meanwhile, and theirs in turn."""

from collections.abc import Iterator
from dataclasses import dataclass

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.plan import AcInput, Hookup, Load, Mark, Recharge, Station
from weary_cedar.core.supply.engine import engine_curve
from weary_cedar.core.supply.overload import OverloadCurve


@dataclass(frozen=True)
class Inlet:
    """A lead into an AC input of a station."""

    key: str
    recharge: Recharge
    station: Station
    entry: AcInput
    #: The station is one of a pair that gives nothing, or cannot be on, while it charges.
    stops: bool = False

    @property
    def passes(self) -> bool:
        """Whether what the station carries hangs on this lead while it is plugged in."""
        return self.entry.passes and self.station.output_while_charging is not False and not self.stops


def inlets(facts: Facts) -> Iterator[Inlet]:
    """Leads into AC inputs."""
    kits = [link for link in facts.plan.links.values() if link.ac_charging in ("refused", "drops_output")]
    stopping = {unit for link in kits for unit in (link.leg_a, link.leg_b)}
    for key, recharge in facts.plan.recharges.items():
        station = facts.plan.stations[recharge.station_id]
        entry = station.ac_inputs.get(recharge.input_id)
        if entry is not None:
            yield Inlet(key, recharge, station, entry, recharge.station_id in stopping)


def feeds_of(facts: Facts, station_id: str) -> list[Hookup]:
    """Feeds of a station, alone or as one of a linked pair."""
    return [feed for feed in facts.plan.hookups.values() if station_id in facts.plan.source_units(feed)]


def onward_loads(
    facts: Facts, station_id: str, mark: Mark | None = None, seen: frozenset[str] = frozenset()
) -> dict[str, Load]:
    """Loads that hang on a station: its own, and those of stations that it passes power on to.

    Args:
        facts: the plan.
        station_id: the station.
        mark: only those with this mark; all that are not marked off where none is named.
        seen: stations that are counted already.

    Returns:
        Loads by id.

    Source: the network of the plan.
    """
    found: dict[str, Load] = {}
    for feed in feeds_of(facts, station_id):
        found |= facts.wanted(feed, mark)
    seen |= {station_id}
    for inlet in inlets(facts):
        own = inlet.recharge
        hangs_on_it = own.kind == "station" and own.from_id == station_id and inlet.passes
        if hangs_on_it and own.station_id not in seen:
            found |= onward_loads(facts, own.station_id, mark, seen)
    return found


def onward_w(
    facts: Facts,
    station_id: str,
    seen: frozenset[str] = frozenset(),
    *,
    by_cord: bool = False,
    without: frozenset[str] = frozenset(),
) -> float:
    """Watts that a station gives with everything kept on it running, and stations on it charging.

    Args:
        facts: the plan.
        station_id: the station.
        seen: stations that are counted already.
        by_cord: only what hangs on its cords: panels are on the utility while that is back.
        without: loads that another source has the turn for.

    Returns:
        Watts at its outlets.

    Source: the network of the plan.
    """
    seen |= {station_id}
    watts = sum(
        on_watts(load)
        for feed in feeds_of(facts, station_id)
        if feed.kind == "cords" or not by_cord
        for key, load in facts.wanted(feed, "keep").items()
        if key not in without
    )
    for inlet in inlets(facts):
        own = inlet.recharge
        if own.kind == "station" and own.from_id == station_id and own.station_id not in seen:
            watts += asked_w(facts, inlet, seen, without)
    return watts


def asked_w(
    facts: Facts,
    inlet: Inlet,
    seen: frozenset[str] = frozenset(),
    without: frozenset[str] = frozenset(),
) -> float:
    """Watts that a lead into a station asks of its source: what it passes through, and its charging.

    Args:
        facts: the plan.
        inlet: the lead with its station and input.
        seen: stations that are counted already.
        without: loads that another source has the turn for.

    Returns:
        Watts; over its cap the station's own charging yields.

    Source: as the run: charging yields to the load that is passed through.
    """
    charging = inlet.recharge.setting_w
    if not inlet.passes:
        return charging
    load = passed_w(facts, inlet, seen, without)
    if load == 0:
        return charging
    load += inlet.station.passthrough_overhead_w
    return min(load + charging, max(load, inlet.entry.carries_a * inlet.entry.volts))


def passed_w(
    facts: Facts,
    inlet: Inlet,
    seen: frozenset[str] = frozenset(),
    without: frozenset[str] = frozenset(),
) -> float:
    """Watts that hang on a station while a lead into it is plugged in, its own charging apart.

    Args:
        facts: the plan.
        inlet: the lead with its station and input.
        seen: stations that are counted already.
        without: loads that another source has the turn for.

    Returns:
        Watts at its outlets.

    Source: as `onward_w`; a lead that is plugged in with the utility only passes on what hangs on cords.
    """
    station_id, on_grid = inlet.recharge.station_id, inlet.recharge.plugged == "grid"
    return onward_w(facts, station_id, seen, by_cord=on_grid, without=without)


def behind(facts: Facts, inlet: Inlet) -> dict[str, Load]:
    """Loads that hang on a lead into a station while that passes it through."""
    return onward_loads(facts, inlet.recharge.station_id) if inlet.passes else {}


@dataclass(frozen=True)
class Upstream:
    """What a lead into a station hangs on: its name, and what it carries."""

    name: str
    curve: OverloadCurve
    rated_va: float


def upstream(facts: Facts, inlet: Inlet) -> Upstream | None:
    """The station, engine or vehicle behind a lead into a station; none behind a circuit.

    Source: plates; of a source of 120/240 V that gives 120 V here, one leg.
    """
    plan, own = facts.plan, inlet.recharge
    if own.kind == "station":
        station = plan.stations[own.from_id]
        one_leg = station.output == "120/240" and inlet.entry.volts == 120
        va = station.leg_limit_va if one_leg else station.rated_va
        return Upstream(station.name, OverloadCurve(station.curve), va)
    if own.kind in ("generator", "vehicle"):
        vehicle = own.kind == "vehicle"
        engine = plan.vehicles[own.from_id].as_source() if vehicle else plan.generators[own.from_id]
        one_leg = engine.output == "120/240" and inlet.entry.volts == 120
        return Upstream(engine.name, engine_curve(engine), engine.leg_limit_w if one_leg else engine.rated_w)
    return None
