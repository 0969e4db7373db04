"""Batteries, cables and fuses of built-up stations, and 12 V sources."""

from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Figures, Hit, Said, Seen, Told, Unknown, shown
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.electrical.dc_side import (
    FARADS_PER_VA,
    cable_and_fuse_a,
    dc_amps,
    may_differ_v,
    precharge_resistor,
)
from weary_cedar.core.outage.result import LeadShare
from weary_cedar.core.plan import Bank, ExternalBattery, Station

#: Lead-acid rests well above this charge, %. Common practice.
RESTED_PERCENT = 90.0
#: An inverter of this rating or more is pre-charged, VA. Common practice.
LARGE_INVERTER_VA = 2000.0


def _banks(facts: Facts) -> Iterator[tuple[str, Station, Bank]]:
    for key, station in facts.plan.stations.items():
        if station.bank is not None:
            yield key, station, station.bank


def _amps(station: Station, bank: Bank) -> float:
    return dc_amps(station.rated_va, station.inverter_efficiency, station.idle_draw_w, bank.lowest_v)


@check("dc-cable")
def cable(facts: Facts) -> Iterator[Said]:
    """Cable against 1.25 times the current at full load and lowest voltage."""
    for key, station, bank in _banks(facts):
        needed = cable_and_fuse_a(_amps(station, bank))
        element = facts.element("stations", key)
        if bank.cable_a is None:
            yield Unknown(element, "what the battery cable may carry")
        elif needed > bank.cable_a:
            yield Hit(element, (Figure(name="needed", value=needed, limit=bank.cable_a, unit="A"),))


@seen("dc-fuse")
def fuse(facts: Facts) -> Iterator[Told]:
    """Fuse there, not above its cable, for DC, interrupting the fault, one per parallel battery."""
    for key, station, bank in _banks(facts):
        element = facts.element("stations", key)
        if bank.fuse_a is None and bank.fused != "no":
            amps = "of how many amps the fuse is"
            yield Unknown(element, amps if bank.fused == "yes" else f"whether there is a fuse, and {amps}")
            continue
        if bank.fuse_a is None:
            least_a, short_a = cable_and_fuse_a(_amps(station, bank)), bank.fault_a
            needs = Figure(name="needs a fuse of at least", value=least_a, unit="A")
            short = Figure(name="a short is given", value=short_a or 0.0, limit=bank.cable_a, unit="A")
            yield Hit(element, (needs,) if short_a is None else (needs, short), detail="there is no fuse")
            continue
        if bank.cable_a is not None and bank.fuse_a > bank.cable_a:
            figure = Figure(name="fuse above its cable", value=bank.fuse_a, limit=bank.cable_a, unit="A")
            yield Hit(element, (figure,))
        if bank.fuse_a < _amps(station, bank):
            figure = Figure(
                name="full load through the fuse", value=_amps(station, bank), limit=bank.fuse_a, unit="A"
            )
            yield Hit(element, (figure,), level="caution")
        if bank.fuse_for_dc == "no":
            volts = Figure(name="battery", value=bank.charge_v or bank.nominal_v, limit=0.0, unit="V")
            yield Hit(element, (volts,), detail="the fuse is not made for direct current")
        if bank.parallel > 1 and bank.fuse_per_battery == "no":
            fed_a = (bank.fault_a or 0.0) * (bank.parallel - 1) / bank.parallel
            figure = Figure(name="one that fails is given by the others", value=fed_a, unit="A")
            yield shown(element, (figure,) if fed_a else (), detail="no fuse at each parallel battery")
        if None not in (bank.fuse_interrupts_a, bank.fault_a) and (bank.fault_a or 0) > (
            bank.fuse_interrupts_a or 0
        ):
            figure = Figure(
                name="fault current", value=bank.fault_a or 0, limit=bank.fuse_interrupts_a, unit="A"
            )
            yield Hit(element, (figure,))
        missing = _fuse_missing(bank)
        if missing:
            yield Unknown(element, missing)


def _fuse_missing(bank: Bank) -> str:
    parts = []
    if bank.fuse_for_dc == "unknown":
        parts.append("whether the fuse is made for direct current")
    if bank.fuse_interrupts_a is None or bank.fault_a is None:
        parts.append("what the fuse interrupts and the battery's fault current")
    if bank.parallel > 1 and bank.fuse_per_battery == "unknown":
        parts.append("whether each parallel battery has a fuse")
    return "; ".join(parts)


@seen("dc-bms")
def battery_limit(facts: Facts) -> Iterator[Told]:
    """Current at the lowest voltage, with idle, against the weakest battery of the strings."""
    for key, station, bank in _banks(facts):
        element = facts.element("stations", key)
        amps = _amps(station, bank)
        weakest_a = bank.weakest_a
        if weakest_a is None:
            yield Unknown(element, "the discharge limit of the weakest battery")
        elif amps > weakest_a * bank.parallel:
            figure = Figure(name="full load", value=amps, limit=weakest_a * bank.parallel, unit="A")
            yield Hit(element, (figure,))
        if bank.alike == "no":
            yield Seen(element, detail="batteries of mixed kinds")
        if bank.most_in_series is not None and bank.in_series > bank.most_in_series:
            figure = Figure(name="in series", value=bank.in_series, limit=bank.most_in_series)
            yield Hit(element, (figure,))


@seen("dc-parallel-delta")
def joined(facts: Facts) -> Iterator[Told]:
    """Difference of voltages when batteries are joined in parallel; unlike charge in a row."""
    for key, _, bank in _banks(facts):
        if bank.parallel < 2:
            continue
        element = facts.element("stations", key)
        limit = may_differ_v(bank.nominal_v)
        if bank.joined_apart_v is None:
            yield Unknown(element, "how far apart the batteries' voltages are when they are joined")
        elif bank.joined_apart_v > limit:
            yield Hit(element, (Figure(name="apart by", value=bank.joined_apart_v, limit=limit, unit="V"),))
    for key, battery in facts.plan.externals.items():
        if battery.in_series < 2 or battery.station_id is None:
            continue
        element = facts.element("externals", key)
        if battery.equal_charge == "no":
            yield Seen(element, detail="batteries in a row have unlike charge: the emptier one is reversed")
        elif battery.equal_charge == "unknown":
            yield Unknown(element, "whether the batteries in a row have the same charge")


@seen("batt-vent")
def ventilation(facts: Facts) -> Iterator[Told]:
    """Flooded lead-acid in a closed room, built up from parts or not."""
    for key, station in facts.plan.stations.items():
        element, place = facts.element("stations", key), facts.plan.places.get(station.place_id or "")
        closed = station.bank.closed_room if station.bank else "unknown"
        if station.chemistry != "lead_flooded" or closed == "no":
            continue
        if closed == "yes":
            yield Seen(element)
        elif place is None or place.kind != "outdoors":
            yield Unknown(element, "whether the room of the batteries is closed")


@seen("dc-source-fuse")
def source_fuse(facts: Facts) -> Iterator[Told]:
    """A lead on a vehicle's battery, or an external battery, without a fuse there."""
    leads = [
        ("vehicles", key, vehicle.fuse_at_battery)
        for key, vehicle in facts.plan.vehicles.items()
        if vehicle.outlet == "battery_12v"
    ]
    leads += [
        ("externals", key, battery.fuse_at_battery)
        for key, battery in facts.plan.externals.items()
        if battery.station_id is not None
    ]
    for room, key, fuse in leads:
        if fuse == "no":
            yield Seen(facts.element(room, key))
        elif fuse == "unknown":
            yield Unknown(facts.element(room, key), "whether there is a fuse at the battery")


@check("dc-precharge")
def precharge(facts: Facts) -> Iterator[Said]:
    """A large inverter on a battery without pre-charge."""
    for key, station, bank in _banks(facts):
        if station.rated_va < LARGE_INVERTER_VA or bank.precharge == "yes":
            continue
        element = facts.element("stations", key)
        if bank.precharge == "no":
            figures = (
                Figure(name="inverter", value=station.rated_va, limit=LARGE_INVERTER_VA, unit="VA"),
                *_resistor(station, bank),
            )
            detail = "resistor for capacitors of typical size, full in 3 s; see Sums"
            yield Hit(element, figures, detail=detail)
        else:
            yield Unknown(element, "whether the inverter is pre-charged before it is joined")


def _resistor(station: Station, bank: Bank) -> Figures:
    ohms, amps, watts = precharge_resistor(bank.nominal_v, FARADS_PER_VA * station.rated_va)
    return (
        Figure(name="pre-charge resistor", value=ohms, unit="Ω"),
        Figure(name="peak", value=amps, unit="A"),
        Figure(name="peak", value=watts, unit="W"),
    )


@check("lead-acid-rest")
def at_rest(facts: Facts) -> Iterator[Said]:
    """Lead-acid that is partly discharged when the outage ends, or half empty for a day of it."""
    for key, station in facts.plan.stations.items():
        share = facts.run.batteries.get(key)
        if not station.chemistry.startswith("lead") or share is None or share.given_wh <= 0:
            continue
        if share.end_percent < RESTED_PERCENT:
            figure = Figure(name="charge at the end", value=share.end_percent, limit=RESTED_PERCENT, unit="%")
            yield Hit(facts.element("stations", key), (figure,))
    for key, battery in facts.plan.externals.items():
        taken = facts.run.externals.get(key)
        if battery.kind != "lead_acid" or taken is None or taken.taken_wh <= 0:
            continue
        half_s = _half_empty_s(facts, key, battery, taken)
        if half_s >= HALF_EMPTY_S:
            figure = Figure(
                name="at or under half its charge", value=half_s / 3600, limit=HALF_EMPTY_S / 3600, unit="h"
            )
            yield Hit(facts.element("externals", key), (figure,))


#: Lead-acid that is at or under half its charge for so long sulphates, s. Common practice.
HALF_EMPTY_S = 86_400.0


def _half_empty_s(facts: Facts, key: str, battery: ExternalBattery, taken: LeadShare) -> float:
    """How long a battery that nothing refills is at or under half its charge in the run, s."""
    percent = facts.plan.outage.start_charge_percent.get(key, 100.0)
    above_wh = (percent - 50.0) / 100.0 * battery.total_wh
    if above_wh <= 0:
        return facts.run.length_s
    given_wh = 0.0
    times = (*taken.t_s, facts.run.length_s)
    for index, watts in enumerate(taken.watts):
        given_wh += watts * (times[index + 1] - times[index]) / 3600.0
        if given_wh >= above_wh * (1 - 1e-6):
            over_s = (given_wh - above_wh) / watts * 3600.0 if watts > 0 else 0.0
            return facts.run.length_s - times[index + 1] + over_s
    return 0.0
