"""Charging: from circuits, generators and other stations, through and in the cold."""

from collections.abc import Iterator
from dataclasses import dataclass

from weary_cedar.core.checks.facts import Facts, start_of
from weary_cedar.core.checks.finding import Figure, Hit, Level, Said, Told, Unknown, not_read, shown
from weary_cedar.core.checks.onward import (
    Inlet,
    asked_w,
    behind,
    feeds_of,
    inlets,
    onward_loads,
    passed_w,
    upstream,
)
from weary_cedar.core.checks.properties import Standing, stores
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.ampacity import CONTINUOUS
from weary_cedar.core.plan import Circuit, Generator, Pack, Station
from weary_cedar.core.supply.overload import OverloadCurve


@check("charge-circuit")
def charge_circuit(facts: Facts) -> Iterator[Said]:
    """Charging, with what the station passes through and what else is on its circuit, against the breaker."""
    on_circuit: dict[str, list[Inlet]] = {}
    for inlet in inlets(facts):
        if inlet.recharge.kind == "circuit":
            on_circuit.setdefault(inlet.recharge.from_id, []).append(inlet)
    for circuit_id, found in on_circuit.items():
        circuit = facts.plan.circuits[circuit_id]
        if circuit.breaker_a is None:
            if circuit_id not in facts.carried_here:
                yield not_read(facts.element("circuits", circuit_id), circuit, "breaker_a")
            continue
        loads = facts.loads_on({circuit_id: circuit}) if circuit_id not in facts.on_cords else {}
        rest_a = facts.at_once_a(loads.values())
        counted_a = facts.at_once_a(loads.values(), lasting=CONTINUOUS)
        asked = [asked_w(facts, inlet) / inlet.entry.volts for inlet in found]
        for inlet, amps in zip(found, asked, strict=True):
            charging_a = sum(asked) - amps
            beside = _Beside(rest_a + charging_a, counted_a + CONTINUOUS * charging_a)
            yield from _on_circuit(facts, inlet, circuit, amps, beside)


@dataclass(frozen=True)
class _Beside:
    """What else is on a circuit that charges, A; and with a quarter more of what lasts as long as it does."""

    amps: float
    counted_a: float


def _on_circuit(facts: Facts, inlet: Inlet, circuit: Circuit, amps: float, beside: _Beside) -> Iterator[Said]:
    volts, breaker_a = inlet.entry.volts, circuit.rated_a
    most = breaker_a / CONTINUOUS
    charging_a = inlet.recharge.setting_w / volts
    passed_a = amps - charging_a
    least = min(most, (breaker_a - beside.counted_a) / CONTINUOUS - passed_a)
    setting = float(round(0.98 * least * volts))
    fix = {"leads": {inlet.key: {"to": {"setting_w": setting}}}} if least > 0 and setting >= 1 else None
    if inlet.entry.steps_w and fix is not None:
        lower = [step for step in inlet.entry.steps_w if step <= setting]
        fix = {"leads": {inlet.key: {"to": {"setting_w": max(lower)}}}} if lower else None
    name = "charging" if passed_a <= 0 else f"charging, and what {inlet.station.name} passes through"
    alone = Figure(name=name, value=amps, limit=breaker_a, unit="A")
    both = Figure(name="with what else is on it", value=amps + beside.amps, limit=breaker_a, unit="A")
    element = facts.element("leads", inlet.key)
    if amps + beside.amps > breaker_a:
        figures = (*((alone,) if amps > breaker_a else ()), *((both,) if beside.amps > 0 else ()))
        yield Hit(element, figures, level="stop", fix=fix)
    elif amps > most or (beside.amps > 0 and amps * CONTINUOUS + beside.counted_a > breaker_a):
        lasting = Figure(name=f"{name}, for hours", value=amps, limit=most, unit="A")
        sum_a, name = amps * CONTINUOUS + beside.counted_a, "1.25 × that, and what else is on it"
        if beside.counted_a > beside.amps:
            name = "1.25 × that and what else lasts on it, and the rest"
        summed = Figure(name=name, value=sum_a, limit=breaker_a, unit="A")
        yield Hit(element, (lasting,) if amps > most else (summed,), fix=fix)


@seen("gen-waveform")
def waveform(facts: Facts) -> Iterator[Told]:
    """A charger that refuses this class of generator."""
    for inlet in inlets(facts):
        if inlet.recharge.kind != "generator":
            continue
        generator = facts.plan.generators[inlet.recharge.from_id]
        if generator.waveform in inlet.station.refuses:
            given = {
                "distortion": (generator.distortion_percent, "%"),
                "swings by": (generator.hertz_swing, "Hz"),
            }
            figures = [
                Figure(name=name, value=value, unit=unit)
                for name, (value, unit) in given.items()
                if value is not None
            ]
            yield shown(facts.element("leads", inlet.key), figures, detail=_wave(inlet.station, generator))


def _wave(station: Station, generator: Generator) -> str:
    said = f"{station.name} refuses {generator.waveform}"
    if generator.distortion_percent is not None:
        said += f", here with {generator.distortion_percent:g} % distortion"
    if generator.hertz_swing is not None:
        said += f", ± {generator.hertz_swing:g} Hz"
    return said


@check("gen-load")
def gen_load(facts: Facts) -> Iterator[Said]:
    """Charging on a generator against its rating and its healthy minimum."""
    found = list(inlets(facts))
    for key, generator in facts.plan.generators.items():
        behind = [i for i in found if i.recharge.kind == "generator" and i.recharge.from_id == key]
        own = {
            load_id: load
            for feed in facts.plan.hookups.values()
            if (feed.source_kind, feed.source_id) == ("generator", key)
            for load_id, load in facts.wanted(feed, "keep").items()
        }
        house = sum(map(on_watts, own.values()))
        in_turn = house + sum(asked_w(facts, inlet, without=frozenset(own)) for inlet in behind)
        total = max(in_turn, sum(asked_w(facts, inlet) for inlet in behind))
        name = "house and charging" if house else "charging, and what is passed through"
        least = generator.healthy_w
        element = facts.element("generators", key)
        if total > generator.rated_w:
            figure = Figure(name=name, value=total, limit=generator.rated_w, unit="W")
            yield Hit(element, (figure,))
        elif total > 0 and generator.healthy_minimum_share is None:
            yield not_read(element, generator, "healthy_minimum_share")
        elif 0 < total < least:
            yield Hit(element, (Figure(name="load, at least", value=total, limit=least, unit="W"),))


@check("passthrough-cap")
def passthrough(facts: Facts) -> Iterator[Said]:
    """Steady load that a station passes through, with what it charges further down, against its inlet."""
    for inlet in inlets(facts):
        watts = passed_w(facts, inlet)
        amps = (watts + inlet.station.passthrough_overhead_w) / inlet.entry.volts if watts > 0 else 0.0
        cap_a = inlet.entry.cap_a
        if amps <= 0 or not inlet.passes or inlet.entry.over_cap != "input_trips":
            continue
        if cap_a is None:
            yield not_read(facts.element("leads", inlet.key), inlet.entry, "cap_a")
        elif amps > cap_a:
            figure = Figure(name="passed through", value=amps, limit=cap_a, unit="A")
            yield Hit(facts.element("leads", inlet.key), (figure,))


@check("passthrough-none")
def no_passthrough(facts: Facts) -> Iterator[Said]:
    """Output that is lost while the station, or one of a linked pair, charges."""
    for inlet in inlets(facts):
        recharge, station = inlet.recharge, inlet.station
        if recharge.plugged == "grid" or passed_w(facts, inlet) == 0:
            continue
        element = facts.element("leads", inlet.key)
        hours = station.total_cell_wh / (recharge.setting_w * station.charge_efficiency)
        dark = (
            Figure(name="dark while it charges from empty", value=hours, unit="h"),
            Figure(name="kept on it", value=passed_w(facts, inlet), unit="W"),
        )
        for feed in feeds_of(facts, recharge.station_id):
            link = facts.plan.link_of(feed)
            outlet = facts.outlet(feed)
            if link is not None and link.ac_charging == "unknown":
                yield Unknown(element, f"whether {link.name} can be charged from AC while it is on")
            elif link is not None and link.ac_charging != "allowed":
                words = "refuses AC charging" if link.ac_charging == "refused" else "drops its output"
                yield Hit(element, dark, detail=f"{link.name}, while it is on, {words}")
            elif station.output_while_charging is None:
                yield not_read(element, station, "output_while_charging")
            elif not station.output_while_charging:
                yield Hit(element, dark)
            elif inlet.entry.passes_through is None:
                yield not_read(element, inlet.entry, "passes_through")
            elif outlet is not None and outlet.live_while_charging == "no":
                yield Hit(
                    element, dark, detail=f"the outlet {outlet.kind} is dead while {station.name} charges"
                )


@check("chain-start")
def chain_start(facts: Facts) -> Iterator[Said]:
    """Starts behind a station that passes through: what is before it carries them too."""
    for inlet in inlets(facts):
        before = upstream(facts, inlet)
        if before is None or not inlet.passes:
            continue
        station_id, own = inlet.recharge.station_id, OverloadCurve(inlet.station.curve)
        kept = onward_loads(facts, station_id, "keep")
        for load_id, load in behind(facts, inlet).items():
            start = start_of(load)
            if start is None:
                continue
            runs = sum(on_watts(other) / other.power_factor for k, other in kept.items() if k != load_id)
            asked = start.va + runs
            limit = before.curve.carried_multiple(start.seconds) * before.rated_va
            if asked <= limit:
                continue
            alone_va = own.carried_multiple(start.seconds) * inlet.station.rated_va
            alone = alone_va >= start.least_va
            name = f"start of {load.name}" + (" on what is kept" if runs else "")
            figures = (
                Figure(name=f"{name}, at {before.name}", value=asked, limit=limit, unit="VA"),
                Figure(name=f"{inlet.station.name} by itself carries", value=alone_va, unit="VA"),
            )
            level: Level = "caution" if alone else "stop"
            yield Hit(facts.element("leads", inlet.key), figures, level=level, detail=start.words)


@check("chain-not-full")
def chain_not_full(facts: Facts) -> Iterator[Said]:
    """A downstream station that begins partly charged."""
    for inlet in inlets(facts):
        station, own = inlet.station, inlet.recharge
        percent = 100 * facts.plan.start_wh(own.station_id) / station.total_cell_wh
        if own.kind == "station" and percent < station.recharge_below_percent - 1e-9:
            figure = Figure(name=station.name, value=percent, limit=station.recharge_below_percent, unit="%")
            yield Hit(facts.element("leads", inlet.key), (figure,))


@check("batt-cold")
def cold(facts: Facts) -> Iterator[Said]:
    """Lithium cells that may be charged below their least temperature."""
    for key, station in facts.plan.stations.items():
        charged = any(r.station_id == key for r in facts.plan.recharges.values())
        charged = charged or any(a.station_id == key for a in facts.plan.arrays.values())
        charged = charged or any(b.station_id == key for b in facts.plan.externals.values())
        if station.chemistry not in ("lfp", "nmc") or station.self_heated or not charged:
            continue
        for stored in stores(facts):
            if stored.element.id == key and stored.element.room == "stations":
                yield from _cells_in_the_cold(facts, stored, station)


def _cells_in_the_cold(facts: Facts, stored: Standing, station: Station) -> Iterator[Said]:
    """Cells of a station, or of a pack at a place of its own, against the coldest of that place."""
    element, place, least_c = stored.element, stored.place, station.coldest_charge_c
    what = f"the pack {stored.part.name}" if isinstance(stored.part, Pack) else "the station"
    coldest_c = None if place is None else facts.coldest_at(place)
    if coldest_c is None and place is not None and least_c is not None:
        coldest_c = facts.colder_now(place, least_c)
    if coldest_c is None:
        if isinstance(stored.part, Pack):
            yield Unknown(element, f"how cold it gets where {what} stands")
        else:
            yield Unknown(element, "how cold it gets where the station stands")
    elif least_c is None:
        yield not_read(element, station, "coldest_charge_c")
    elif coldest_c < least_c:
        bank = station.bank
        unlocked = bank is not None and bank.low_temperature_lockout != "yes"
        name = f"coldest at {what}" if isinstance(stored.part, Pack) else "coldest"
        figure = Figure(name=name, value=coldest_c, limit=least_c, unit="°C")
        yield Hit(element, (figure,), level="stop" if unlocked else "caution")
