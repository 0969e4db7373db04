"""Ratings against flows: legs, starts, outlets, cords, breakers, charging."""

import math
from collections.abc import Iterator

from weary_cedar.core.checks.facts import Facts
from weary_cedar.core.checks.finding import Figure, Hit, Level, Said, Unknown
from weary_cedar.core.checks.registry import check
from weary_cedar.core.electrical.ampacity import CONTINUOUS, cord_ampacity_a, largest_breaker_a, receptacle
from weary_cedar.core.electrical.conductor import ohms_per_m
from weary_cedar.core.electrical.split_phase import PhaseLoad
from weary_cedar.core.electrical.voltage_drop import two_wire_drop_v
from weary_cedar.core.panel_schedule import on_watts, panel_schedule
from weary_cedar.core.plan import AcInput, Feed, Recharge, Station
from weary_cedar.core.supply.overload import OverloadCurve

#: A run over a limit for longer than this with nobody shedding is a stop, s.
OVER_S = 60.0
#: Legs that differ by more than this lean. Common practice.
LEAN = 1 / 3
#: Current limit over locked-rotor current under which a motor may stall. NEMA MG-1, from memory.
SAG = 0.85
#: Drops worth a caution, and the share of plate volts under which a motor must not run or start.
DROPS = (0.03, 0.05)
RUN_SHARE, START_SHARE = 0.90, 0.80
#: Circuits of these ratings serve cord-and-plug loads up to 80 %. NFPA 70 210.23(A), from memory.
CORD_AND_PLUG = (15.0, 20.0, 30.0)


def _over_s(facts: Facts, leg: str | None) -> float:
    """Seconds over a leg's limit, or over the total, in the run with nobody shedding."""
    run = facts.unshed
    limits = facts.limits
    if limits is None:
        return 0.0
    times, total_s = run.series.t_s, 0.0
    values = {"A": run.series.a_va, "L": run.series.a_va, "B": run.series.b_va}.get(leg or "", ())
    for index, begins in enumerate(times[:-1]):
        over = (
            values[index] > limits.leg_va * (1 + 1e-9) if values else _total(facts, index) > limits.total_va
        )
        total_s += times[index + 1] - begins if over else 0.0
    return total_s


def _total(facts: Facts, index: int) -> float:
    series = facts.unshed.series
    legs = ((series.a_w[index], series.a_va[index]), (series.b_w[index], series.b_va[index]))
    reactive = sum(math.sqrt(max(0.0, va * va - watts * watts)) for watts, va in legs)
    return math.hypot(legs[0][0] + legs[1][0], reactive)


@check("leg-over")
def leg_over(facts: Facts) -> Iterator[Said]:
    """What is kept on a leg together; over for a minute with nobody shedding is a stop."""
    limits, feed = facts.limits, _run_feed(facts)
    if limits is None or feed is None:
        return
    for leg, load in facts.kept_sums().items():
        over_s = _over_s(facts, leg)
        if load.va > limits.leg_va or over_s > OVER_S:
            figures = [Figure(name=f"kept on leg {leg}", value=load.va, limit=limits.leg_va, unit="VA")]
            if over_s > OVER_S:
                figures.append(
                    Figure(name="over it in the run, nobody shedding", value=over_s, limit=OVER_S, unit="s")
                )
            level: Level = "stop" if over_s > OVER_S else "caution"
            detail = f"the tightest is {limits.leg_element.name}"
            yield Hit(facts.element("feeds", feed[0]), tuple(figures), level=level, detail=detail)


@check("total-over")
def total_over(facts: Facts) -> Iterator[Said]:
    """What is kept together against the source's rating."""
    limits, feed = facts.limits, _run_feed(facts)
    if limits is None or feed is None:
        return
    va = sum(facts.kept_sums().values(), PhaseLoad(0.0)).va
    over_s = _over_s(facts, None)
    if va > limits.total_va or over_s > OVER_S:
        level: Level = "stop" if over_s > OVER_S else "caution"
        figure = Figure(name="kept together", value=va, limit=limits.total_va, unit="VA")
        yield Hit(facts.element("feeds", feed[0]), (figure,), level=level)


def _run_feed(facts: Facts) -> tuple[str, Feed] | None:
    feed = facts.plan.run_feed
    return next(((key, item) for key, item in facts.plan.feeds.items() if item is feed), None)


@check("start-trip")
def start_trip(facts: Facts) -> Iterator[Said]:
    """A start that trips alone (stop), in the run (stop), or only on everything kept (caution)."""
    limits = facts.limits
    if limits is None:
        return
    station = facts.plan.source_station(facts.plan.run_feed) if facts.plan.run_feed else None
    curve = OverloadCurve(station.overload_curve) if station else None
    tripped = {key for event in facts.run.events if event.kind == "left_off" for key in event.loads}
    sums = facts.kept_sums()
    carried_on = facts.plan.carried_circuits()
    for key, load in facts.plan.loads.items():
        if load.start is None or curve is None or load.circuit_id not in carried_on:
            continue
        legs = facts.legs_of(load)
        carried = curve.carried_multiple(load.start.seconds) * limits.leg_va
        alone = load.start.va / len(legs)
        kept = key in facts.kept()
        own = on_watts(load) / load.power_factor / len(legs) if kept else 0.0
        together = alone + max(sums[leg].va for leg in legs) - own
        if alone > carried or key in tripped:
            figure = Figure(name="start alone", value=alone, limit=carried, unit="VA")
            yield Hit(facts.element("loads", key), (figure,), level="stop")
        elif together > carried:
            figure = Figure(name="start on all that is kept", value=together, limit=carried, unit="VA")
            yield Hit(facts.element("loads", key), (figure,), level="caution")


@check("motor-sag")
def motor_sag(facts: Facts) -> Iterator[Said]:
    """Current limit over locked-rotor current."""
    limits, feed = facts.limits, facts.plan.run_feed
    if limits is None or feed is None:
        return
    curve = OverloadCurve(facts.plan.source_station(feed).overload_curve)
    volts = facts.plan.site.leg_volts
    for key, load in facts.plan.loads.items():
        if load.circuit_id not in facts.plan.carried_circuits() or load.start is None:
            continue
        legs = facts.legs_of(load)
        locked = load.locked_rotor_a or load.start.va / (volts * len(legs))
        ratio = curve.carried_multiple(1.0) * limits.leg_va / volts / locked
        if ratio < SAG:
            figure = Figure(name="current limit over locked-rotor amps", value=ratio, limit=SAG)
            yield Hit(facts.element("loads", key), (figure,))


@check("receptacle-over")
def receptacle_over(facts: Facts) -> Iterator[Said]:
    """Greatest flow, and the stated rating, against the configuration of the outlet."""
    for key, feed in facts.plan.feeds.items():
        outlet = facts.source(feed).receptacles.get(feed.receptacle_id)
        if outlet is None:
            continue
        row = receptacle(outlet.kind)
        element = facts.element("feeds", key)
        if row is None:
            yield Unknown(element, f"what a receptacle {outlet.kind} may carry")
            continue
        flow = facts.flow("receptacle") if feed is facts.plan.run_feed else None
        amps = flow[0] if flow else 0.0
        if amps > float(row["rating_a"]):
            yield Hit(
                element, (Figure(name=outlet.kind, value=amps, limit=float(row["rating_a"]), unit="A"),)
            )
        elif outlet.rating_a > float(row["rating_a"]):
            figure = Figure(
                name=f"stated for {outlet.kind}",
                value=outlet.rating_a,
                limit=float(row["rating_a"]),
                unit="A",
            )
            yield Hit(element, (figure,))


@check("continuous-80")
def continuous(facts: Facts) -> Iterator[Said]:
    """Non-continuous and 1.25 times continuous load of a circuit against its breaker."""
    carried = facts.plan.carried_circuits()
    for key in carried:
        circuit = facts.plan.circuits[key]
        loads = facts.loads_on({key: circuit}).values()
        lasting = sum(facts.amps(load) for load in loads if facts.continuous(load))
        rest = sum(facts.amps(load) for load in loads if not facts.continuous(load))
        needed = rest + CONTINUOUS * lasting
        if lasting > 0 and needed > circuit.breaker_a:
            figure = Figure(name="with 1.25 × continuous", value=needed, limit=circuit.breaker_a, unit="A")
            yield Hit(facts.element("circuits", key), (figure,))


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
        element = facts.element("recharges", key)
        most = circuit.breaker_a / CONTINUOUS
        others = sum(facts.amps(load) for load in facts.loads_on({recharge.from_id: circuit}).values())
        least = min(most, (circuit.breaker_a - others) / CONTINUOUS)
        fix = (
            {"recharges": {key: {"setting_w": float(round(0.98 * least * entry.volts))}}}
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


@check("inlet-feed")
def inlet_feed(facts: Facts) -> Iterator[Said]:
    """Inlet and feed breaker below the source's outlet, with nothing to protect them."""
    for key, feed in facts.plan.feeds.items():
        outlet = facts.source(feed).receptacles.get(feed.receptacle_id)
        if outlet is None or feed.kind == "cords":
            continue
        protected = min([outlet.rating_a, *(a.overcurrent_a for a in feed.adapters if a.overcurrent_a)])
        if feed.inlet_a < protected:
            figure = Figure(name="inlet", value=protected, limit=feed.inlet_a, unit="A")
            yield Hit(facts.element("feeds", key), (figure,))


@check("cord-ampacity")
def cord_ampacity(facts: Facts) -> Iterator[Said]:
    """Greatest flow against the cord; without a run, the outlet's rating."""
    for key, feed in facts.plan.feeds.items():
        outlet = facts.source(feed).receptacles.get(feed.receptacle_id)
        amps = facts.greatest_flow("cord") if feed is facts.plan.run_feed else 0.0
        if feed.kind == "cords" and outlet is not None:
            loads = facts.loads_on(facts.on(feed)).values()
            amps = min(outlet.rating_a, sum(facts.amps(load) for load in loads))
        for cord in feed.cords:
            limit = cord_ampacity_a(cord.awg)
            if amps > limit:
                figure = Figure(name=f"AWG {cord.awg}", value=amps, limit=limit, unit="A")
                yield Hit(facts.element("feeds", key), (figure,))


@check("cord-drop")
def cord_drop(facts: Facts) -> Iterator[Said]:
    """Drop of the cords at the greatest flow; running and starting volts of motors."""
    volts = facts.plan.site.leg_volts
    for key, feed in facts.plan.feeds.items():
        flow = facts.flow("cord") if feed is facts.plan.run_feed else None
        loads = facts.loads_on(facts.on(feed))
        amps = flow[0] if flow else max((facts.amps(load) for load in loads.values()), default=0.0)
        ohms = sum(ohms_per_m(cord.awg) * cord.length_m for cord in feed.cords)
        drop = two_wire_drop_v(amps, ohms, ohms)
        element = facts.element("feeds", key)
        basis = f"loop {2 * ohms:.3f} Ω, stranded copper at 20 °C, constant current"
        share = drop / volts
        if share > DROPS[0]:
            limit = DROPS[1] if share > DROPS[1] else DROPS[0]
            figure = Figure(name="drop at the greatest flow", value=100 * share, limit=100 * limit, unit="%")
            yield Hit(element, (figure,), detail=basis)
        for load_id, load in loads.items():
            plate = load.plate_volts
            if plate is None or load.start is None or plate > 1.5 * volts:
                continue
            running = (volts - drop) / plate
            starting = (
                volts - two_wire_drop_v(load.locked_rotor_a or load.start.va / volts, ohms, ohms)
            ) / plate
            if running < RUN_SHARE or starting < START_SHARE:
                figures = (
                    Figure(name="running volts", value=100 * running, limit=100 * RUN_SHARE, unit="%"),
                    Figure(name="starting volts", value=100 * starting, limit=100 * START_SHARE, unit="%"),
                )
                yield Hit(facts.element("loads", load_id), figures, level="stop", detail=basis)


@check("cord-joints")
def joints(facts: Facts) -> Iterator[Said]:
    """Several cords in a row."""
    for key, feed in facts.plan.feeds.items():
        count = len(feed.cords) - 1 + len(feed.adapters)
        if count > 0:
            figure = Figure(name="joints add at most", value=10.0 * count, unit="mΩ")
            yield Hit(facts.element("feeds", key), (figure,))


@check("wire-breaker")
def wire_breaker(facts: Facts) -> Iterator[Said]:
    """Breakers larger than their conductors allow."""
    for key, circuit in facts.plan.circuits.items():
        if circuit.awg is None or circuit.mark == "off":
            continue
        limit = largest_breaker_a(circuit.awg, circuit.metal)
        motors = any(load.start is not None for load in facts.loads_on({key: circuit}).values())
        if limit is not None and circuit.breaker_a > limit and not motors:
            figure = Figure(
                name=f"breaker on AWG {circuit.awg}", value=circuit.breaker_a, limit=limit, unit="A"
            )
            yield Hit(facts.element("circuits", key), (figure,), fix={"circuits": {key: {"mark": "off"}}})


@check("bus-sum")
def bus(facts: Facts) -> Iterator[Said]:
    """Bus or neutral bus below the feed breaker."""
    for key, feed in facts.panel_feeds:
        panel = facts.plan.panels[feed.panel_id]
        rating = min(panel.bus_a, panel.neutral_bus_a or panel.bus_a)
        if feed.breaker_a > rating:
            yield Hit(
                facts.element("feeds", key),
                (Figure(name="feed", value=feed.breaker_a, limit=rating, unit="A"),),
            )


@check("leg-lean")
def leg_lean(facts: Facts) -> Iterator[Said]:
    """Legs that differ by more than a third."""
    if not facts.plan.site.split_phase:
        return
    feed = facts.plan.run_feed
    for panel_id in facts.plan.panels:
        if feed is None or feed.panel_id != panel_id:
            continue
        schedule = panel_schedule(facts.plan, panel_id)
        linked = feed.source_id in facts.plan.links
        value = schedule.lean_wh if linked else schedule.lean_w
        if value > LEAN:
            level: Level = "caution" if linked else "note"
            figure = Figure(name="lean", value=100 * value, limit=100 * LEAN, unit="%")
            yield Hit(facts.element("panels", panel_id), (figure,), level=level)


@check("gen-waveform")
def waveform(facts: Facts) -> Iterator[Said]:
    """A charger that refuses this class of generator."""
    for key, recharge, station, _ in _inputs(facts):
        generator = facts.plan.generators.get(recharge.from_id)
        if recharge.kind == "generator" and generator and generator.waveform in station.refuses:
            yield Hit(facts.element("recharges", key), detail=f"{station.name} refuses {generator.waveform}")


@check("gen-load")
def gen_load(facts: Facts) -> Iterator[Said]:
    """Charging on a generator against its rating and its healthy minimum."""
    for key, generator in facts.plan.generators.items():
        charging = sum(r.setting_w for r in facts.plan.recharges.values() if r.from_id == key)
        house = 0.0
        for feed in facts.plan.feeds.values():
            if feed.source_id == key:
                kept = {k: c for k, c in facts.on(feed).items() if c.mark == "keep"}
                house += sum(on_watts(load) for load in facts.loads_on(kept).values())
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
    for feed in facts.plan.feeds.values():
        if feed.source_id == station_id:
            kept = {k: c for k, c in facts.on(feed).items() if c.mark == "keep"}
            watts += sum(on_watts(load) for load in facts.loads_on(kept).values())
    return watts


@check("passthrough-cap")
def passthrough(facts: Facts) -> Iterator[Said]:
    """Steady load of a station that is passed through, against its inlet."""
    for key, recharge, _, entry in _inputs(facts):
        watts = _downstream_w(facts, recharge.station_id)
        amps = watts / entry.volts
        if (
            entry.passes_through
            and recharge.when != "grid"
            and entry.over_cap == "input_trips"
            and amps > entry.cap_a
        ):
            figure = Figure(name="passed through", value=amps, limit=entry.cap_a, unit="A")
            yield Hit(facts.element("recharges", key), (figure,))


@check("passthrough-none")
def no_passthrough(facts: Facts) -> Iterator[Said]:
    """Output that is lost while the station charges."""
    for key, recharge, station, _ in _inputs(facts):
        feeds = _downstream_w(facts, recharge.station_id) > 0
        if feeds and recharge.when != "grid" and not station.output_while_charging:
            yield Hit(facts.element("recharges", key))


@check("chain-start")
def chain_start(facts: Facts) -> Iterator[Said]:
    """Starts behind a station that passes through: the upstream station carries them too."""
    for key, recharge, station, entry in _inputs(facts):
        if recharge.kind != "station" or not entry.passes_through:
            continue
        upstream = facts.plan.stations[recharge.from_id]
        curve = OverloadCurve(upstream.overload_curve)
        for feed in facts.plan.feeds.values():
            if feed.source_id != recharge.station_id:
                continue
            for load in facts.loads_on(facts.on(feed)).values():
                if load.start is None:
                    continue
                limit = curve.carried_multiple(load.start.seconds) * upstream.rated_va
                if load.start.va > limit:
                    alone = station.rated_va >= on_watts(load)
                    figure = Figure(name=f"start of {load.name}", value=load.start.va, limit=limit, unit="VA")
                    yield Hit(
                        facts.element("recharges", key), (figure,), level="caution" if alone else "stop"
                    )


@check("chain-not-full")
def chain_not_full(facts: Facts) -> Iterator[Said]:
    """A downstream station that begins partly charged."""
    for key, recharge, station, _ in _inputs(facts):
        percent = facts.plan.outage.start_charge_percent.get(recharge.station_id, 100.0)
        if recharge.kind == "station" and percent < 95.0:
            yield Hit(
                facts.element("recharges", key),
                (Figure(name=station.name, value=percent, limit=95.0, unit="%"),),
            )


@check("batt-cold")
def cold(facts: Facts) -> Iterator[Said]:
    """Lithium iron phosphate that may be charged below its least temperature."""
    for key, station in facts.plan.stations.items():
        charged = any(r.station_id == key for r in facts.plan.recharges.values())
        charged = charged or any(a.station_id == key for a in facts.plan.arrays.values())
        if station.chemistry != "lfp" or station.self_heated or not charged:
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
