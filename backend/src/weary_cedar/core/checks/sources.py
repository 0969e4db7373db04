"""Sources, their outlets, adapters and cords: life and fire."""

from collections.abc import Iterator

from weary_cedar.core.checks.along import below_its_device
from weary_cedar.core.checks.facts import AT_ONCE, GFCI_A, Facts, no_fault_path
from weary_cedar.core.checks.finding import (
    Element,
    Figure,
    Figures,
    Hit,
    Level,
    Said,
    Seen,
    Told,
    Unknown,
    not_read,
)
from weary_cedar.core.checks.properties import Burning, burners, stores
from weary_cedar.core.checks.registry import check, seen
from weary_cedar.core.checks.survey import said_of
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.ampacity import receptacle
from weary_cedar.core.electrical.split_phase import open_neutral_volts
from weary_cedar.core.network.path import neutral_of
from weary_cedar.core.plan import Cord, ExternalBattery, Hookup, Owned, Place, Station, Vehicle

#: Least distance of an engine from an opening, m: 20 ft. CDC and CPSC guidance, from memory.
ENGINE_CLEAR_M = 6.096
#: Share of a 12 V socket's fuse that may be drawn for long. Common practice.
SOCKET_SHARE = 0.8
#: What an outlet is behind where nobody said it, A.
USUAL_BREAKER_A = 15.0


@seen("gen-outdoors")
def outdoors(facts: Facts) -> Iterator[Told]:
    """Engines indoors, near an opening, or without an alarm in the house."""
    for found in burners(facts):
        if not _hybrid(found):
            yield from _exhaust(found)


@seen("vehicle-start")
def engine_by_itself(facts: Facts) -> Iterator[Told]:
    """A hybrid that may start its engine in an enclosed place, or near an opening of the house."""
    for found in burners(facts):
        if not _hybrid(found):
            continue
        dangers = list(_exhaust(found))
        if found.burns == "yes":
            yield from dangers
        elif dangers:
            yield Unknown(found.element, "whether it may start its engine by itself")


def _hybrid(found: Burning) -> bool:
    return isinstance(found.part, Vehicle) and found.part.kind == "hybrid"


def _exhaust(found: Burning) -> Iterator[Told]:
    """What is wrong with where something burns, or not known of it."""
    element, place = found.element, found.place
    if place is None:
        yield Unknown(element, "where it stands")
        return
    if found.enclosed:
        yield Seen(element, detail=place.name)
    elif place.opening_m is None:
        yield Unknown(element, f"how far {place.name} is from the nearest door, window or vent")
    elif place.opening_m < ENGINE_CLEAR_M:
        yield Hit(
            element, (Figure(name="from an opening", value=place.opening_m, limit=ENGINE_CLEAR_M, unit="m"),)
        )
    if place.co_alarm == "no":
        yield Seen(element, detail="no carbon-monoxide alarm in the house")
    elif place.co_alarm == "unknown":
        yield Unknown(element, "whether there is a working carbon-monoxide alarm in the house")


@check("vehicle-12v")
def socket(facts: Facts) -> Iterator[Said]:
    """Load of a 12 V socket against 80 % of its fuse, and of the 12 V supply behind it."""
    for key, vehicle in facts.plan.vehicles.items():
        ceiling_w = vehicle.supply_12v_w
        if (
            vehicle.outlet in ("socket_12v", "battery_12v")
            and ceiling_w is not None
            and vehicle.draws_w > ceiling_w
        ):
            figure = Figure(
                name="more than its 12 V supply gives", value=vehicle.draws_w, limit=ceiling_w, unit="W"
            )
            detail = "what it does not give comes out of the starter battery"
            yield Hit(facts.element("vehicles", key), (figure,), level="caution", detail=detail)
        if vehicle.outlet != "socket_12v" or vehicle.draws_w == 0:
            continue
        element = facts.element("vehicles", key)
        if vehicle.socket_fuse_a is None:
            yield Unknown(element, "the fuse of its socket")
            continue
        limit = SOCKET_SHARE * vehicle.socket_fuse_a
        amps = vehicle.draws_w / vehicle.socket_v
        if amps > limit:
            yield Hit(element, (Figure(name="drawn", value=amps, limit=limit, unit="A"),))


def needs_neutral(facts: Facts, feed: Hookup) -> bool:
    """Whether both legs of a house hang on the neutral of a path."""
    source = facts.source(feed)
    panel = feed.traits.panel and not feed.traits.one_hot
    both_legs = source.output == "120/240" or feed.source_kind == "link"
    return panel and facts.plan.site.split_phase and both_legs


@check("neutral-open")
def open_neutral(facts: Facts) -> Iterator[Said]:
    """A joint without a neutral in a 120/240 V path."""
    for key, feed in facts.plan.hookups.items():
        if not needs_neutral(facts, feed):
            continue
        element, path = facts.element("leads", key), facts.paths[key]
        without = [kind for kind in path.joints if neutral_of(kind) == "no"]
        without += [a.load_end for a in path.adapters if a.passes_neutral == "no"]
        if feed.wire is not None and feed.wire.conductors == 2:
            without.append("the wire from the inlet, of two conductors")
        unknown = [kind for kind in path.joints if neutral_of(kind) == "unknown"]
        unknown += [a.load_end for a in path.adapters if a.passes_neutral == "unknown"]
        if without:
            yield Hit(element, (_apart(facts, feed),), detail=", ".join(dict.fromkeys(without)))
        elif unknown:
            yield Unknown(element, f"whether {unknown[0]} has a neutral")


#: What 120 V appliances are made for, V: 5 % above is the most of a service. ANSI C84.1, from memory.
MOST_LEG_V = 126.0


def _apart(facts: Facts, feed: Hookup) -> Figure:
    """What an open neutral puts on the smallest load of one leg while the greatest of the other runs."""
    by_leg: dict[str, list[tuple[float, str]]] = {"A": [], "B": []}
    for key, load in facts.wanted(feed).items():
        legs = facts.network.legs_of(key)
        if len(legs) == 1 and legs[0] in by_leg and on_watts(load) > 0:
            by_leg[legs[0]].append((on_watts(load), load.name))
    worst = (300.0, "300 W", 1000.0, "1,000 W")
    if by_leg["A"] and by_leg["B"]:
        pairs = [(*min(by_leg[small]), *max(by_leg[large])) for small, large in (("A", "B"), ("B", "A"))]
        worst = max(pairs, key=lambda pair: pair[2] / pair[0])
    small_w, small, large_w, large = worst
    volts = max(open_neutral_volts(120**2 / small_w, 120**2 / large_w))
    if volts <= MOST_LEG_V:
        small, volts = "a leg with nothing on it", 240.0
    return Figure(name=f"on {small} beside {large}", value=volts, limit=MOST_LEG_V, unit="V")


@check("ground-missing")
def ground(facts: Facts) -> Iterator[Said]:
    """A joint without a ground."""
    for path in facts.paths.values():
        rows = [(kind, receptacle(kind)) for kind in path.joints]
        without = [f"a {kind} has none" for kind, row in rows if row is not None and row["ground"] == "no"]
        without += [f"{found.name} passes none" for found in path.elements if found.ground == "no"]
        unknown = [found.name for found in path.elements if found.ground == "unknown"]
        unknown += [kind for kind, row in rows if row is None]
        if without:
            figures = no_fault_path(path.protected_a or USUAL_BREAKER_A)
            detail = ", ".join(dict.fromkeys(without))
            yield Hit(facts.element("leads", path.key), figures, detail=detail)
        elif unknown:
            yield Unknown(facts.element("leads", path.key), f"whether {unknown[0]} has a ground")


@check("cord-conductors")
def conductors(facts: Facts) -> Iterator[Said]:
    """Cords with fewer conductors than their own two ends need."""
    for path in facts.paths.values():
        rows = [row for row in (receptacle(kind) for kind in path.cord_ends) if row is not None]
        needed = max((int(row["cord_conductors"]) for row in rows), default=0)
        for cord in path.cords:
            if cord.conductors is not None and cord.conductors < needed:
                figure = Figure(name=f"conductors of {cord.size}", value=cord.conductors, limit=needed)
                yield Hit(facts.element("leads", path.key), (figure,))


@check("adapter-unprotected")
def unprotected(facts: Facts) -> Iterator[Said]:
    """Adapters, strips, and cords on outlets, below every overcurrent device on their source side."""
    for path in facts.paths.values():
        element = facts.element("leads", path.key)
        for part in path.of("cord", "adapter", "plug"):
            least, limit = path.protects(part), part.rating_a
            if least is None or limit is None or limit >= least:
                continue
            level: Level | None = "stop"
            if isinstance(part.part, Cord):
                name = f"cord of {part.part.size}"
                if part.behind_a is not None and least <= part.behind_a:
                    continue
            else:
                name = "strip" if part.kind == "plug" else " to ".join(part.ends)
                level = below_its_device(facts, path, part, least)
                if level is None:
                    continue
            figure = Figure(name=name, value=least, limit=limit, unit="A")
            yield Hit(element, (figure,), level=level)


@check("pair-unsynced")
def unsynced(facts: Facts) -> Iterator[Said]:
    """Two 120 V inverters on the two legs without the maker's link."""
    halves = [(key, feed) for key, feed in facts.plan.hookups.items() if feed.kind == "half_leg"]
    by_panel: dict[str, list[tuple[str, Hookup]]] = {}
    for key, feed in halves:
        by_panel.setdefault(feed.panel_id, []).append((key, feed))
    for feeds in by_panel.values():
        if len({feed.source_id for _, feed in feeds}) > 1:
            names = " and ".join(facts.source_name(feed) for _, feed in feeds)
            ratings = [outlet.rating_a for _, feed in feeds if (outlet := facts.outlet(feed))]
            sum_a = Figure(name="on the neutral, in step", value=sum(ratings), limit=max(ratings), unit="A")
            volts = Figure(name="leg to leg, in step, where 240 V belong", value=0.0, unit="V")
            yield Hit(facts.element("leads", feeds[-1][0]), (sum_a, volts), detail=names)


@check("pair-gfci")
def linked_gfci(facts: Facts) -> Iterator[Said]:
    """A link whose outlets have ground-fault protection."""
    for feed in facts.plan.hookups.values():
        link = facts.plan.link_of(feed)
        if link is None:
            continue
        units = [facts.plan.stations[unit] for unit in (link.leg_a, link.leg_b)]
        own = link.receptacles.get(feed.receptacle_id)
        outlets = [own] if own else [unit.receptacles.get(feed.receptacle_id) for unit in units]
        answers = {outlet.gfci if outlet else "unknown" for outlet in outlets}
        if "yes" in answers:
            most_a = max((outlet.rating_a for outlet in outlets if outlet), default=feed.inlet_a)
            name = "returns by the other unit, at most"
            figure = Figure(name=name, value=most_a, limit=GFCI_A, unit="A")
            yield Hit(facts.element("links", feed.source_id), (figure,))
        elif "unknown" in answers:
            missing = "whether the outlets that are joined have ground-fault protection"
            yield Unknown(facts.element("links", feed.source_id), missing)


@seen("inverter-not-groundable")
def groundable(facts: Facts) -> Iterator[Told]:
    """A panel feed from an output that must not meet ground."""
    for key, feed in facts.panel_feeds:
        source = facts.source(feed)
        if isinstance(source, Station) and source.isolated != "yes":
            element = facts.element("leads", key)
            if source.isolated == "no":
                yield Seen(element, detail=source.name)
            else:
                yield Seen(element, detail=f"not known of {source.name}; it counts as not isolated")


@check("volt-freq-mismatch")
def mismatch(facts: Facts) -> Iterator[Said]:
    """A source of another voltage or frequency than the house's."""
    site = facts.plan.site
    own_hertz = 60 if site.split_phase else 50
    for key, feed in facts.plan.hookups.items():
        source = facts.source(feed)
        abroad = (source.output == "230") == site.split_phase
        hertz = getattr(source, "hertz", None) or own_hertz
        if abroad or hertz != own_hertz:
            gives_v = 230.0 if source.output == "230" else 120.0
            volts = Figure(name="gives", value=gives_v, limit=site.leg_volts, unit="V")
            beats = Figure(name="gives", value=hertz, limit=own_hertz, unit="Hz")
            both: Figures = (volts, beats) if hertz != own_hertz else (volts,)
            figures = both if abroad else (beats,)
            house = "120/240 V, 60 Hz" if site.split_phase else "230 V, 50 Hz"
            detail = f"{source.output} V, {hertz} Hz into {house}"
            yield Hit(facts.element("leads", key), figures, detail=detail)
        elif site.split_phase:
            yield from _one_hot(facts, key, feed)


#: What one hot gives between the legs, and what a house takes there.
LEG_TO_LEG: Figures = (
    Figure(name="leg to leg, from one hot", value=0.0, unit="V"),
    Figure(name="where belong", value=240.0, unit="V"),
)


def _one_hot(facts: Facts, key: str, feed: Hookup) -> Iterator[Said]:
    """A 120 V source or joint on a feed of both legs, or on circuits that need both."""
    source = facts.source(feed)
    narrow = [f"{source.name}, 120 V"] if source.output == "120" and feed.source_kind != "link" else []
    narrow += [kind for kind in facts.paths[key].joints if _volts(kind) == "120"]
    if not narrow:
        return
    if feed.traits.one_hot:
        yield from _unsaid_legs(facts, key, feed)
    elif feed.traits.whole:
        detail = f"one hot for both legs: {narrow[0]}; say whether it feeds both legs, or one"
        yield Hit(facts.element("leads", key), LEG_TO_LEG, detail=detail)
    elif feed.traits.moves == "handles":
        circuits = {circuit_id: facts.plan.circuits[circuit_id] for circuit_id in feed.circuit_ids}
        both = [c.label for k, c in circuits.items() if c.poles == 2 or facts.plan.partner_of(k) in circuits]
        if both:
            detail = f"one hot from {narrow[0]} for circuits that need both legs: {', '.join(both)}"
            yield Hit(facts.element("leads", key), LEG_TO_LEG, detail=detail)


def _unsaid_legs(facts: Facts, key: str, feed: Hookup) -> Iterator[Said]:
    """An outlet of one hot into an inlet of both legs, without the adapter that joins them."""
    outlet = facts.outlet(feed)
    joins = any(_volts(a.source_end) == "120" and _volts(a.load_end) == "120/240" for a in feed.adapters)
    if outlet is not None and _volts(outlet.kind) == "120" and _volts(feed.inlet) == "120/240" and not joins:
        detail = f"{outlet.kind} into {feed.inlet}, without the adapter that says which legs it joins"
        yield Hit(facts.element("leads", key), LEG_TO_LEG, detail=detail)


def _volts(kind: str) -> str:
    row = receptacle(kind)
    return row["volts"] if row else ""


@seen("wet-no-gfci")
def wet(facts: Facts) -> Iterator[Told]:
    """Loads in wet places on circuits without ground-fault protection."""
    for key, load in facts.plan.loads.items():
        place = facts.plan.places.get(load.place_id or "")
        damp = place is not None and place.kind in ("outdoors", "basement")
        if damp and not _guarded(facts, key):
            yield Seen(facts.element("loads", key), detail=place.name if place else "")


def _guarded(facts: Facts, load_id: str) -> bool:
    """Whether a load is off, or behind ground-fault protection of its circuit or of its source's outlet."""
    hang = facts.network.hangs[load_id]
    if hang.circuit_id is not None and hang.circuit_id not in facts.on_cords:
        protection = facts.plan.circuits[hang.circuit_id].protection
        return hang.mark == "off" or protection not in ("none", "afci")
    lead = facts.plan.hookups.get(hang.lead_id or "")
    if hang.circuit_id is not None:
        lead = next((h for h in facts.plan.hookups.values() if hang.circuit_id in h.circuit_ids), None)
    outlet = facts.outlet(lead) if lead else None
    return hang.mark == "off" or lead is None or (outlet is not None and outlet.gfci == "yes")


@seen("furnace-cord")
def furnace_by_cord(facts: Facts) -> Iterator[Told]:
    """A furnace that was made cord-and-plug."""
    for feed in facts.plan.hookups.values() if facts.plan.site.split_phase else ():
        if feed.kind == "cords":
            for key, load in facts.reachable(feed).items():
                if load.role == "heat":
                    yield Seen(facts.element("loads", key))


def _bridged(facts: Facts) -> Iterator[tuple[str, Hookup]]:
    return ((key, feed) for key, feed in facts.plan.hookups.items() if feed.kind == "bridged")


@check("bridged-multiwire")
def bridged_pairs(facts: Facts) -> Iterator[Said]:
    """Both halves of a shared neutral closed with one hot on both legs."""
    for _, feed in _bridged(facts):
        on = facts.on(feed)
        outlet = facts.outlet(feed)
        for key, circuit in on.items():
            partner = facts.plan.partner_of(key)
            if partner in on and partner is not None and key < partner:
                both_a = circuit.rated_a + facts.plan.circuits[partner].rated_a
                most_a, limit = min(both_a, outlet.rating_a if outlet else both_a), circuit.rated_a
                carries = "its neutral may carry"
                figures: Figures = (Figure(name=carries, value=most_a, limit=limit, unit="A"),)
                if most_a <= limit:
                    alone = Figure(name="on two legs, their difference, at most", value=limit, unit="A")
                    figures = (Figure(name=f"{carries} the sum, at most", value=most_a, unit="A"), alone)
                fix = {"circuits": {partner: {"mark": "off"}}}
                yield Hit(facts.element("circuits", key), figures, fix=fix)


@check("bridged-240")
def bridged_two_pole(facts: Facts) -> Iterator[Said]:
    """Two-pole breakers closed with one hot on both legs."""
    for _, feed in _bridged(facts):
        for key, circuit in facts.on(feed).items():
            if circuit.poles == 2:
                level: Level = "stop" if circuit.mark == "keep" else "caution"
                fix = {"circuits": {key: {"mark": "off"}}}
                yield Hit(facts.element("circuits", key), LEG_TO_LEG, level=level, fix=fix)


@check("bridged-neutral")
def bridged_bus(facts: Facts) -> Iterator[Said]:
    """A source not below the neutral bus, with one hot on both legs."""
    for key, feed in _bridged(facts):
        panel = facts.plan.panels[feed.panel_id]
        outlet = facts.outlet(feed)
        bus = panel.neutral_carries_a
        if bus is None:
            yield Unknown(facts.element("panels", feed.panel_id), "what its neutral bus is rated for")
        elif outlet is not None and outlet.rating_a >= bus:
            source = Figure(name="source", value=outlet.rating_a, limit=bus, unit="A")
            now_a = facts.most_neutral_a(key)
            over = now_a is not None and now_a > bus
            now = Figure(name="both legs now, on the neutral", value=now_a or 0.0, limit=bus, unit="A")
            figures: Figures = (source,) if now_a is None else (source, now)
            yield Hit(facts.element("leads", key), figures, level="stop" if over else None)


@check("half-leg-backfeed")
def through_elements(facts: Facts) -> Iterator[Said]:
    """A 240 V breaker closed with one leg fed."""
    for feed in facts.plan.hookups.values():
        if feed.kind == "half_leg":
            for key, circuit in facts.on(feed).items():
                if circuit.poles == 2:
                    fix = {"circuits": {key: {"mark": "off"}}}
                    watts = sum(on_watts(load) for load in facts.loads_on({key: circuit}).values())
                    amps = watts * facts.plan.site.leg_volts / (2 * facts.plan.site.leg_volts) ** 2
                    volts = facts.plan.site.leg_volts
                    figures = (
                        Figure(
                            name="on the leg that should be dead, at most", value=volts, limit=0.0, unit="V"
                        ),
                        Figure(name="through it into that leg, at most", value=amps, unit="A"),
                    )
                    yield Hit(facts.element("circuits", key), figures if watts else figures[:1], fix=fix)


@seen("station-place")
def place_of_station(facts: Facts) -> Iterator[Told]:
    """Where what stores energy stands: escape route, bedroom, water, dust, below flood level."""
    for found in stores(facts):
        element, part, place = found.element, found.part, found.place
        if place is None:
            if isinstance(part, Station):
                yield Unknown(element, "where it stands")
            continue
        if found.within and place is facts.plan.places.get(_station_place(facts, part)):
            continue
        if place.below_flood_level == "yes":
            yield Seen(element, level="stop", detail=f"{place.name} is below flood level")
        elif place.kind == "bedroom" or place.escape_route == "yes":
            yield Seen(element, detail=f"{place.name}: a bedroom or an escape route")
        if not isinstance(part, Vehicle):
            yield from _wet_or_dusty(element, place)
        if isinstance(part, Station):
            yield from _too_cold_or_hot(facts, element, part, place)
    yield from said_of(facts, "station-place")


def _station_place(facts: Facts, part: Owned) -> str:
    """Place of the station that a battery stands beside, where no place of its own is said."""
    station = facts.plan.stations.get(part.station_id or "") if isinstance(part, ExternalBattery) else None
    return (station.place_id if station else None) or ""


def _wet_or_dusty(element: Element, place: Place) -> Iterator[Told]:
    """Water and dust at a place: housings of batteries are made for dry rooms."""
    if place.wet == "yes":
        yield Seen(element, detail=f"{place.name}: rain or spray reaches it")
    elif place.wet == "unknown" and place.kind == "outdoors":
        yield Unknown(element, f"whether rain or spray reaches {place.name}")
    if place.dusty == "yes":
        yield Seen(element, detail=f"{place.name}: dust gets into its fans")


def _too_cold_or_hot(facts: Facts, element: Element, station: Station, place: Place) -> Iterator[Said]:
    """A place outside the temperatures that a station works at, by what is said of it and by the weather."""
    from_c, to_c = station.works_from_c, station.works_to_c
    now_c = None if from_c is None else facts.colder_now(place, from_c)
    coldest, hottest = facts.coldest_at(place) if now_c is None else now_c, facts.hottest_at(place)
    if coldest is not None and from_c is None:
        yield not_read(element, station, "works_from_c")
    elif coldest is not None and from_c is not None and coldest < from_c:
        yield Hit(element, (Figure(name=f"coldest in {place.name}", value=coldest, limit=from_c, unit="°C"),))
    if hottest is not None and to_c is None:
        yield not_read(element, station, "works_to_c")
    elif hottest is not None and to_c is not None and hottest > to_c:
        yield Hit(element, (Figure(name=f"hottest in {place.name}", value=hottest, limit=to_c, unit="°C"),))


#: What an inverter gives into a short over its rating. Common practice.
SHORT_SHARE = 2.0


@check("fault-current")
def short(facts: Facts) -> Iterator[Said]:
    """An inverter does not clear a short selectively."""
    for key, feed in facts.panel_feeds:
        source = facts.source(feed)
        if isinstance(source, Station):
            bare = [c.label for c in facts.on(feed).values() if c.protection != "rcd"]
            protected = facts.plan.site.split_phase or not bare
            detail = "" if protected else f"no residual-current device: {', '.join(bare)}"
            gives_a = SHORT_SHARE * source.leg_limit_va / facts.plan.site.leg_volts
            trips_a = AT_ONCE * max((c.rated_a for c in facts.on(feed).values()), default=0.0)
            given = Figure(name="a short is given at most", value=gives_a, unit="A")
            name = "its largest breaker takes, to trip at once"
            takes = Figure(name=name, value=trips_a, unit="A")
            level: Level = "note" if protected else "stop"
            figures = (given, takes) if trips_a > 0 else (given,)
            yield Hit(facts.element("leads", key), figures, level=level, detail=detail)
