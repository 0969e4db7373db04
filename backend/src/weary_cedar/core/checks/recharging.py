"""Charging: from circuits, generators and other stations, through and in the cold."""

from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Said, Unknown
from weary_cedar.core.checks.registry import check
from weary_cedar.core.electrical.ampacity import CONTINUOUS
from weary_cedar.core.panel_schedule import on_watts
from weary_cedar.core.plan import AcInput, Generator, Hookup, Recharge, Station
from weary_cedar.core.supply.overload import OverloadCurve


def _inputs(facts: Facts) -> Iterator[tuple[str, Recharge, Station, AcInput]]:
    for key, recharge in facts.plan.recharges.items():
        station = facts.plan.stations[recharge.station_id]
        entry = station.ac_inputs.get(recharge.input_id)
        if entry is not None:
            yield key, recharge, station, entry


@check("charge-circuit")
def charge_circuit(facts: Facts) -> Iterator[Said]:
    """Charging against the breaker of its circuit, and 80 % of it."""
    for key, recharge, _, entry in _inputs(facts):
        if recharge.kind != "circuit":
            continue
        circuit = facts.plan.circuits[recharge.from_id]
        amps = recharge.setting_w / entry.volts
        element = facts.element("leads", key)
        most = circuit.breaker_a / CONTINUOUS
        others = sum(facts.amps(load) for load in facts.loads_on({recharge.from_id: circuit}).values())
        least = min(most, (circuit.breaker_a - others) / CONTINUOUS)
        fix = (
            {"leads": {key: {"to": {"setting_w": float(round(0.98 * least * entry.volts))}}}}
            if least > 0
            else None
        )
        if amps > circuit.breaker_a:
            yield Hit(
                element,
                (Figure(name="charging", value=amps, limit=circuit.breaker_a, unit="A"),),
                level="stop",
                fix=fix,
            )
        elif amps > most or (others > 0 and amps * CONTINUOUS + others > circuit.breaker_a):
            figures = [Figure(name="charging", value=amps, limit=most, unit="A")]
            if others > 0:
                both = amps + others
                figures.append(
                    Figure(name="with what else is on it", value=both, limit=circuit.breaker_a, unit="A")
                )
            yield Hit(element, tuple(figures), fix=fix)


@check("gen-waveform")
def waveform(facts: Facts) -> Iterator[Said]:
    """A charger that refuses this class of generator."""
    for key, recharge, station, _ in _inputs(facts):
        generator = facts.plan.generators.get(recharge.from_id)
        if recharge.kind == "generator" and generator and generator.waveform in station.refuses:
            yield Hit(facts.element("leads", key), detail=_wave(station, generator))


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
    for key, generator in facts.plan.generators.items():
        charging = sum(r.setting_w for r in facts.plan.recharges.values() if r.from_id == key)
        house = 0.0
        for feed in facts.plan.hookups.values():
            if feed.source_id == key:
                house += sum(on_watts(load) for load in facts.wanted(feed, "keep").values())
        total = charging + house
        if total > generator.rated_w:
            figure = Figure(name="house and charging", value=total, limit=generator.rated_w, unit="W")
            yield Hit(facts.element("generators", key), (figure,))
        elif 0 < total < generator.healthy_minimum_share * generator.rated_w:
            least = generator.healthy_minimum_share * generator.rated_w
            figure = Figure(name="load, at least", value=total, limit=least, unit="W")
            yield Hit(facts.element("generators", key), (figure,))


def _downstream_w(facts: Facts, station_id: str) -> float:
    """Watts of what a station carries while it passes through."""
    watts = 0.0
    for feed in _feeds_of(facts, station_id):
        watts += sum(on_watts(load) for load in facts.wanted(feed, "keep").values())
    return watts


def _feeds_of(facts: Facts, station_id: str) -> list[Hookup]:
    """Feeds of a station, alone or as one of a linked pair."""
    return [feed for feed in facts.plan.hookups.values() if station_id in facts.plan.source_units(feed)]


@check("passthrough-cap")
def passthrough(facts: Facts) -> Iterator[Said]:
    """Steady load of a station that is passed through, against its inlet."""
    for key, recharge, station, entry in _inputs(facts):
        watts = _downstream_w(facts, recharge.station_id)
        amps = (watts + station.passthrough_overhead_w) / entry.volts if watts > 0 else 0.0
        if (
            entry.passes_through
            and recharge.plugged != "grid"
            and entry.over_cap == "input_trips"
            and amps > entry.cap_a
        ):
            figure = Figure(name="passed through", value=amps, limit=entry.cap_a, unit="A")
            yield Hit(facts.element("leads", key), (figure,))


@check("passthrough-none")
def no_passthrough(facts: Facts) -> Iterator[Said]:
    """Output that is lost while the station, or one of a linked pair, charges."""
    for key, recharge, station, _ in _inputs(facts):
        if recharge.plugged == "grid" or _downstream_w(facts, recharge.station_id) == 0:
            continue
        element = facts.element("leads", key)
        hours = station.total_cell_wh / (recharge.setting_w * station.charge_efficiency)
        dark = (Figure(name="dark while it charges from empty", value=hours, unit="h"),)
        for feed in _feeds_of(facts, recharge.station_id):
            link = facts.plan.link_of(feed)
            outlet = facts.outlet(feed)
            if link is not None and link.ac_charging == "unknown":
                yield Unknown(element, f"whether {link.name} can be charged from AC while it is on")
            elif link is not None and link.ac_charging != "allowed":
                words = "refuses AC charging" if link.ac_charging == "refused" else "drops its output"
                yield Hit(element, dark, detail=f"{link.name}, while it is on, {words}")
            elif not station.output_while_charging:
                yield Hit(element, dark)
            elif outlet is not None and outlet.live_while_charging == "no":
                yield Hit(
                    element, dark, detail=f"the outlet {outlet.kind} is dead while {station.name} charges"
                )


@check("chain-start")
def chain_start(facts: Facts) -> Iterator[Said]:
    """Starts behind a station that passes through: the upstream station carries them too."""
    for key, recharge, station, entry in _inputs(facts):
        if recharge.kind != "station" or not entry.passes_through:
            continue
        upstream = facts.plan.stations[recharge.from_id]
        curve = OverloadCurve(upstream.overload_curve)
        for feed in facts.plan.hookups.values():
            if feed.source_id != recharge.station_id:
                continue
            kept = facts.wanted(feed, "keep")
            for load_id, load in facts.wanted(feed).items():
                if load.start is None:
                    continue
                limit = curve.carried_multiple(load.start.seconds) * upstream.rated_va
                runs = sum(on_watts(other) / other.power_factor for k, other in kept.items() if k != load_id)
                asked = load.start.va + runs
                if asked > limit:
                    alone = station.rated_va >= on_watts(load)
                    name = f"start of {load.name}" + (" on what is kept" if runs else "")
                    figure = Figure(name=name, value=asked, limit=limit, unit="VA")
                    yield Hit(facts.element("leads", key), (figure,), level="caution" if alone else "stop")


@check("chain-not-full")
def chain_not_full(facts: Facts) -> Iterator[Said]:
    """A downstream station that begins partly charged."""
    for key, recharge, station, _ in _inputs(facts):
        percent = 100 * facts.plan.start_wh(recharge.station_id) / station.total_cell_wh
        if recharge.kind == "station" and percent < station.recharge_below_percent - 1e-9:
            yield Hit(
                facts.element("leads", key),
                (Figure(name=station.name, value=percent, limit=station.recharge_below_percent, unit="%"),),
            )


@check("batt-cold")
def cold(facts: Facts) -> Iterator[Said]:
    """Lithium cells that may be charged below their least temperature."""
    for key, station in facts.plan.stations.items():
        charged = any(r.station_id == key for r in facts.plan.recharges.values())
        charged = charged or any(a.station_id == key for a in facts.plan.arrays.values())
        if station.chemistry not in ("lfp", "nmc") or station.self_heated or not charged:
            continue
        place = facts.plan.places.get(station.place_id or "")
        element = facts.element("stations", key)
        if place is None or place.coldest_c is None:
            yield Unknown(element, "how cold it gets where the station stands")
        elif place.coldest_c < station.coldest_charge_c:
            bank = station.bank
            unlocked = bank is not None and bank.low_temperature_lockout != "yes"
            figure = Figure(name="coldest", value=place.coldest_c, limit=station.coldest_charge_c, unit="°C")
            yield Hit(element, (figure,), level="stop" if unlocked else "caution")
