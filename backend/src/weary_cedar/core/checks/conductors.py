"""Outlets, cords, inlets, breakers and buses against what flows through them."""

import math
from collections.abc import Iterator, Sequence

from weary_cedar.core.checks.along import below_its_device, carried_a
from weary_cedar.core.checks.facts import CONTINUOUS_S, Facts, is_motor
from weary_cedar.core.checks.finding import Figure, Hit, Said, Seen, Told, Unknown, not_read
from weary_cedar.core.checks.onward import Inlet, asked_w, inlets
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.electrical.ampacity import (
    CONTINUOUS,
    largest_breaker_a,
    metric_wire_a,
    receptacle,
)
from weary_cedar.core.handles.elements import is_wired
from weary_cedar.core.network import Way
from weary_cedar.core.network.path import Element, Path, outlet_of
from weary_cedar.core.network.wires import fixed_wire_breaker_a
from weary_cedar.core.plan import (
    VEHICLE_OUTLET,
    Circuit,
    Cord,
    Feed,
    FixedWire,
    Panel,
    Receptacle,
)

#: Circuits with several outlets on which one plugged-in load is limited. NFPA 70 (2023) 210.23, from memory.
PLUGGED_A = (15.0, 20.0, 30.0)


@check("receptacle-over")
def receptacle_over(facts: Facts) -> Iterator[Said]:
    """Greatest flow, and what is stated, against an outlet's configuration; its leads add up."""
    yield from _at_one_outlet(facts)
    yield from _from_which_outlet(facts)
    for path in facts.paths.values():
        amps, over = facts.greatest_flow("receptacle", path.key), set()
        hookup = facts.plan.hookups.get(path.key)
        terminals = hookup is not None and is_wired(hookup)
        for joint in path.of("outlet", "adapter", "plug", *(() if terminals else ("inlet",))):
            for kind in joint.ends:
                told = _at_a_joint(facts, path, joint, kind, amps)
                if told is not None and kind not in over:
                    over.add(kind)
                    yield told


def _at_a_joint(facts: Facts, path: Path, joint: Element, kind: str, amps: float) -> Said | None:
    """A configuration of a lead against what flows through it, and against what its part is said to carry."""
    row, element = receptacle(kind), facts.element("leads", path.key)
    if row is None:
        asked = joint.kind == "outlet" and path.kind == "feeds"
        return Unknown(element, f"what a receptacle {kind} may carry") if asked else None
    most_a, stated_a = float(row["rating_a"]), joint.rating_a or 0.0
    if amps > most_a:
        return Hit(element, (Figure(name=kind, value=amps, limit=most_a, unit="A"),))
    if joint.kind in ("outlet", "inlet") and stated_a > most_a:
        return Hit(element, (Figure(name=f"stated for {kind}", value=stated_a, limit=most_a, unit="A"),))
    return None


def _at_one_outlet(facts: Facts) -> Iterator[Said]:
    """All leads of one outlet, those that charge too: what they ask for together, by leg of the source."""
    ways: dict[tuple[str, str, str], list[Way]] = {}
    for way in facts.ways:
        hookup = way.hookup
        ways.setdefault((hookup.source_kind, hookup.source_id, hookup.receptacle_id), []).append(way)
    charging: dict[tuple[str, str, str], list[Inlet]] = {}
    for inlet in inlets(facts):
        own = inlet.recharge
        if own.kind != "circuit" and outlet_of(facts.plan, own) is not None:
            outlet_id = own.outlet_id or VEHICLE_OUTLET
            charging.setdefault((own.kind, own.from_id, outlet_id), []).append(inlet)
    for key in sorted({*ways, *charging}):
        feeding, into = ways.get(key, []), charging.get(key, [])
        ends = {way.hookup.feed_id or way.lead_id for way in feeding} | {inlet.key for inlet in into}
        outlet = facts.outlet(feeding[0].hookup) if feeding else outlet_of(facts.plan, into[0].recharge)
        if outlet is None or (not into and len(ends) < 2):
            continue
        for leg, amps in _asked_at(facts, feeding, into).items():
            if amps > outlet.rating_a:
                leads = [way.lead_id for way in feeding] + [inlet.key for inlet in into]
                what = f"{len(leads)} leads from {outlet.kind}" if len(leads) > 1 else outlet.kind
                name = f"kept on {what}, leg {leg}" if not into else f"kept and charging on {what}, leg {leg}"
                figure = Figure(name=name, value=amps, limit=outlet.rating_a, unit="A")
                yield Hit(facts.element("leads", leads[0]), (figure,))


def _from_which_outlet(facts: Facts) -> Iterator[Said]:
    """Charging leads of which it is not said in which of several outlets they are."""
    for inlet in inlets(facts):
        own = inlet.recharge
        if len(facts.plan.outlets_of(own.kind, own.from_id)) > 1 and outlet_of(facts.plan, own) is None:
            source = facts.plan.room_of(own.kind)[own.from_id].name
            yield Unknown(facts.element("leads", inlet.key), f"which outlet of {source} it is plugged into")


def _asked_at(facts: Facts, feeding: list[Way], into: list[Inlet]) -> dict[str, float]:
    """Amps that leads at one outlet ask for together, by leg of the source."""
    volts = facts.plan.site.leg_volts
    legs = ("A", "B") if facts.plan.site.split_phase else ("L",)
    found = dict.fromkeys(legs, 0.0)
    for way in feeding:
        for leg, asked in facts.kept_sums(way).items():
            found[leg] += asked.va / volts
    own = frozenset(key for way in feeding for key in facts.kept(way))
    for inlet in into:
        amps = asked_w(facts, inlet, without=own) / inlet.entry.volts
        both = facts.plan.site.split_phase and inlet.entry.volts == 240
        outlet = outlet_of(facts.plan, inlet.recharge)
        leg = "B" if outlet is not None and outlet.leg == "B" else legs[0]
        for name in legs if both else (leg,):
            found[name] += amps
    return found


@check("continuous-80")
def continuous(facts: Facts) -> Iterator[Said]:
    """Non-continuous and 1.25 times continuous load against breaker and outlet; what a run puts on one."""
    for key in sorted(facts.carried_here):
        if facts.plan.circuits[key].breaker_a is None:
            yield not_read(facts.element("circuits", key), facts.plan.circuits[key], "breaker_a")
            continue
        figures = tuple(_at_a_breaker(facts, key))
        if figures:
            yield Hit(facts.element("circuits", key), (figures[0], *figures[1:]))
    yield from _lasting_on_the_feed(facts)
    yield from _lasting_charging(facts)


def _at_a_breaker(facts: Facts, circuit_id: str) -> Iterator[Figure]:
    """What is too much for a circuit: its lasting load, what the run puts on it, one plugged-in load."""
    circuit = facts.plan.circuits[circuit_id]
    loads = facts.loads_on({circuit_id: circuit})
    breaker_a, several = circuit.rated_a, len(loads) > 1 or bool(circuit.outlets)
    needed = facts.at_once_a(loads.values(), lasting=CONTINUOUS)
    if needed > breaker_a and any(facts.continuous(load) for load in loads.values()):
        yield Figure(name="with 1.25 × continuous", value=needed, limit=breaker_a, unit="A")
    most = next((flow for flow in facts.run.flows if flow.key == circuit_id), None)
    if most is not None and most.flow > most.rating:
        yield Figure(name="together in the run", value=most.flow, limit=most.rating, unit="A")
    if breaker_a not in PLUGGED_A or circuit.poles > 1 or not several:
        return
    for load in loads.values():
        amps, limit = facts.amps(load), breaker_a / CONTINUOUS
        if amps > limit and load.role != "pump":
            yield Figure(name=f"{load.name}, plugged in", value=amps, limit=limit, unit="A")


def _lasting_on_the_feed(facts: Facts) -> Iterator[Said]:
    """Current of each feed that is held for three hours, against 80 % of outlet and breaker.

    An outlet that its maker rates for lasting load counts whole.
    """
    legs = ("A", "B") if facts.plan.site.split_phase else ("L",)
    volts = facts.plan.site.leg_volts
    for way in facts.ways:
        share, feed = facts.run.ways.get(way.lead_id), way.hookup
        if share is None:
            continue
        least = min(_lasting_a(facts.plan.outlet(feed)), (feed.breaker_a or math.inf) / CONTINUOUS)
        times = (*share.t_s, facts.run.length_s)
        for leg, found in zip(legs, (share.a_va, share.b_va), strict=False):
            held = held_a(times, [va / volts for va in found], least)
            if held > least:
                figure = Figure(name=f"held for 3 h on leg {leg}", value=held, limit=least, unit="A")
                yield Hit(facts.element("leads", way.lead_id), (figure,))


def _lasting_a(outlet: Receptacle) -> float:
    """What an outlet gives for three hours or more, A: 80 %, or all of it where its maker says so."""
    return outlet.rating_a if outlet.continuous == "yes" else outlet.rating_a / CONTINUOUS


def _lasting_charging(facts: Facts) -> Iterator[Said]:
    """Current of each charging lead that is held for three hours, against 80 % of its source's outlet."""
    for inlet in inlets(facts):
        share, outlet = facts.run.leads.get(inlet.key), outlet_of(facts.plan, inlet.recharge)
        if share is None or outlet is None or not share.t_s:
            continue
        least, volts = _lasting_a(outlet), inlet.entry.volts
        times = (*share.t_s, facts.run.length_s)
        held = held_a(times, [watts / volts for watts in share.watts], least)
        if held > least:
            figure = Figure(name="held for 3 h, charging", value=held, limit=least, unit="A")
            yield Hit(facts.element("leads", inlet.key), (figure,))


def held_a(times: Sequence[float], amps: Sequence[float], above: float) -> float:
    """The least current of a stretch of three hours or more that stays above a level; 0 without one."""
    began, lowest, held = 0.0, 0.0, 0.0
    for index, value in enumerate(amps):
        if value <= above:
            lowest = 0.0
            continue
        if lowest == 0.0:
            began, lowest = times[index], value
        lowest = min(lowest, value)
        ends = times[index + 1] if index + 1 < len(times) else times[index]
        if ends - began >= CONTINUOUS_S:
            held = max(held, lowest)
    return held


@check("inlet-feed")
def inlet_feed(facts: Facts) -> Iterator[Said]:
    """What an inlet and its wire may carry, below what protects them."""
    for path in facts.paths.values():
        feed = facts.plan.hookups.get(path.key)
        if feed is None:
            continue
        element = facts.element("leads", path.key)
        wired = feed.traits.panel and not feed.traits.by_itself
        if wired and feed.wire is None:
            yield Unknown(element, "gauge, metal and length of the wire from the inlet")
        elif wired and feed.wire is not None and feed.wire.awg is None:
            yield not_read(element, feed.wire, "awg")
        for part in path.of("inlet", "wire"):
            limit = fixed_wire_breaker_a(feed.wire) if part.kind == "wire" else part.rating_a
            protected = path.protects(part)
            if limit is None or protected is None or limit >= protected:
                continue
            level = below_its_device(facts, path, part, protected)
            if level is not None:
                name = "inlet" if part.kind == "inlet" else "wire of the inlet"
                figure = Figure(name=name, value=protected, limit=limit, unit="A")
                said = _column_of(feed.wire) if part.kind == "wire" else ""
                yield Hit(element, (figure,), level=level, detail=said)


@check("cord-ampacity")
def cord_ampacity(facts: Facts) -> Iterator[Said]:
    """Greatest flow against cords, and adapters of leads that charge: those of a feed limit its legs."""
    for path in facts.paths.values():
        amps, charging = carried_a(facts, path), path.kind == "charges"
        for part in path.of("cord", *(("adapter",) if charging else ())):
            if part.rating_a is not None and amps > part.rating_a:
                size = part.part.size if isinstance(part.part, Cord) else part.name
                name = f"{size}, charging" if charging else size
                figure = Figure(name=name, value=amps, limit=part.rating_a, unit="A")
                yield Hit(facts.element("leads", path.key), (figure,))


@check("cord-joints")
def joints(facts: Facts) -> Iterator[Said]:
    """Several cords in a row."""
    for path in facts.paths.values():
        count = max(0, len(path.cords) - 1) + len(path.adapters)
        if count > 0:
            figure = Figure(name="joints add at most", value=10.0 * count, unit="mΩ")
            yield Hit(facts.element("leads", path.key), (figure,))


@check("wire-breaker")
def wire_breaker(facts: Facts) -> Iterator[Said]:
    """Breakers larger than their conductors allow: a stop on the feed, else a circuit to leave off."""
    for key, feed in facts.plan.feeds.items():
        wire_a = fixed_wire_breaker_a(feed.wire)
        if feed.traits.breaker and feed.wire and wire_a is not None and feed.breaker_a > wire_a:
            name = f"feed breaker on AWG {feed.wire.awg} {feed.wire.metal}"
            figure = Figure(name=name, value=feed.breaker_a, limit=wire_a, unit="A")
            yield Hit(facts.element("feeds", key), (figure,), level="stop", detail=_column_of(feed.wire))
    for key, circuit in facts.plan.circuits.items():
        charging = key in facts.charging_from
        if circuit.mark == "off" and not charging:
            continue
        name, limit = wire_of(circuit)
        loads = facts.loads_on({key: circuit}).values()
        motors = any(is_motor(load) for load in loads)
        breaker_a = circuit.breaker_a
        if limit is None or circuit.breaker_by_plate == "yes":
            continue
        if breaker_a is None:
            # Of what is carried `continuous-80` asks for it, where something charges `charge-circuit`.
            if key not in facts.carried_here and not charging:
                yield not_read(facts.element("circuits", key), circuit, "breaker_a")
            continue
        if breaker_a <= limit:
            continue
        if circuit.mm2 == RING_MM2 and breaker_a <= RING_A:
            yield Unknown(
                facts.element("circuits", key), f"whether it is a ring: one {name} carries {limit:g} A"
            )
            continue
        figure = Figure(name=f"breaker on {name}", value=breaker_a, limit=limit, unit="A")
        asked = "right only where the plate of its motor rules the breaker, which is not said"
        ask = motors and circuit.breaker_by_plate == "unknown"
        said = asked if ask else _column_of(circuit)
        fix = None if charging else {"circuits": {key: {"mark": "off"}}}
        yield Hit(facts.element("circuits", key), (figure,), detail=said, fix=fix)


def _column_of(wire: FixedWire | Circuit | None) -> str:
    """By which column a wire was judged, where another one would allow more."""
    if wire is None or wire.awg is None or wire.terminals_c is not None:
        return ""
    more = largest_breaker_a(wire.awg, wire.metal, 75)
    if more == largest_breaker_a(wire.awg, wire.metal, 60):
        return ""
    return (
        "by the 60 °C column: it is not said whether cable and all terminals are marked for 75 °C, which "
        f"would allow {more:g} A"
    )


#: A ring of this wire is usual behind this breaker: two of them carry together. Common practice.
RING_MM2, RING_A = 2.5, 32.0


def wire_of(circuit: Circuit) -> tuple[str, float | None]:
    """A circuit's wire in words, and the largest breaker that it allows."""
    if circuit.awg is not None:
        return f"AWG {circuit.awg}", largest_breaker_a(circuit.awg, circuit.metal, circuit.terminals_c or 60)
    if circuit.mm2 is not None:
        return f"{circuit.mm2:g} mm²", metric_wire_a(circuit.mm2) if circuit.metal == "copper" else None
    return "", None


#: Plugs that go into receptacles of another kind too. Common practice.
ALSO_FITS = {("5-20", "5-15")}


@seen("joint-misfit")
def misfit(facts: Facts) -> Iterator[Told]:
    """Ends of outlet, adapters and inlet that do not go into each other; a cord has the same at both ends."""
    for path in facts.paths.values():
        end, joints = path.begins, []
        for adapter in sorted(path.adapters, key=lambda item: item.sits_at == "load"):
            joints.append((end, adapter.source_end))
            end = adapter.load_end
        if path.ends is not None:
            joints.append((end, path.ends))
        for one, other in joints:
            if one is not None and one != other and (one, other) not in ALSO_FITS:
                yield Seen(facts.element("leads", path.key), detail=f"{one} into {other}")


@check("bus-sum")
def bus(facts: Facts) -> Iterator[Said]:
    """Bus or neutral bus below the feed breaker."""
    for key, feed in facts.plan.feeds.items():
        panel = facts.plan.panels[feed.panel_id]
        if not (feed.traits.breaker or feed.traits.service):
            continue
        rating = _bus_a(panel)
        if rating is None:
            yield not_read(facts.element("panels", feed.panel_id), panel, "bus_a")
            continue
        before_a = _before_the_bus(facts, key, feed)
        if before_a > rating:
            figure = Figure(name="feed", value=before_a, limit=rating, unit="A")
            yield Hit(facts.element("feeds", key), (figure,))
    for key, panel in facts.plan.panels.items():
        feeder = facts.plan.circuits.get(panel.fed_from or "")
        if feeder is None or feeder.mark == "off":
            continue
        rating, breaker_a = _bus_a(panel), feeder.breaker_a
        if rating is None or breaker_a is None:
            of_panel = not_read(facts.element("panels", key), panel, "bus_a")
            of_feeder = not_read(facts.element("circuits", panel.fed_from or ""), feeder, "breaker_a")
            if rating is None or panel.fed_from not in facts.carried_here:
                yield of_panel if rating is None else of_feeder
        elif breaker_a > rating:
            figure = Figure(name=f"breaker of {feeder.label}", value=breaker_a, limit=rating, unit="A")
            yield Hit(facts.element("panels", key), (figure,))


def _before_the_bus(facts: Facts, feed_id: str, feed: Feed) -> float:
    """What protects the bus that a feed enters, A: its breaker; of a switch, what protects its leads."""
    leads = [key for key, hookup in facts.plan.hookups.items() if hookup.feed_id == feed_id]
    found = [facts.paths[key].protects(bus) for key in leads for bus in facts.paths[key].of("bus")]
    if feed.traits.breaker or not found or None in found:
        return feed.breaker_a
    return max(amps for amps in found if amps is not None)


def _bus_a(panel: Panel) -> float | None:
    """The lesser of what bus and neutral bus carry, A; nothing where that is not known."""
    bus_a, neutral_a = panel.bus_carries_a, panel.neutral_carries_a
    return None if bus_a is None or neutral_a is None else min(bus_a, neutral_a)
