"""Where parts of a plan contradict each other."""

import math
from collections.abc import Iterator
from itertools import pairwise

from weary_cedar.core.errors import Problem, missing, shown
from weary_cedar.core.plan.battery import ExternalBattery
from weary_cedar.core.plan.document import Plan
from weary_cedar.core.plan.feed import Cord, Feed
from weary_cedar.core.plan.lead import OUTLET_ROOMS
from weary_cedar.core.plan.lead_problems import cord_problems, lead_problems
from weary_cedar.core.plan.load import Cycling, Measured
from weary_cedar.core.plan.outage import Act
from weary_cedar.core.plan.rule_problems import rule_problems
from weary_cedar.core.plan.solar import SolarArray
from weary_cedar.core.plan.station import Station
from weary_cedar.core.tables import table

#: Least energy of a station with its packs, Wh at the cells.
LEAST_WH = 1.0


def contradictions(plan: Plan) -> Iterator[Problem]:
    """Everything in a plan that cannot be, each with what would be right."""
    yield from _reference_problems(plan)
    yield from _behaviour_problems(plan)
    yield from _space_problems(plan)
    for station_id, station in plan.stations.items():
        yield from _station_problems(f"/stations/{station_id}", station)
    yield from _plate_problems(plan)
    yield from _shared_links(plan)
    for key, part in plan.box.items():
        if isinstance(part, Cord):
            yield from cord_problems(f"/box/{key}", part)


def _station_problems(at: str, station: Station) -> Iterator[Problem]:
    multiples = [point.multiple for point in station.curve]
    seconds = [math.inf if point.seconds is None else point.seconds for point in station.curve]
    timed = [item for item in seconds if item < math.inf]
    falls = seconds == sorted(seconds, reverse=True) and len(set(timed)) == len(timed)
    if multiples != sorted(set(multiples)) or not falls:
        told = [[point.multiple, point.seconds] for point in station.curve]
        right = "multiples rise and seconds fall from point to point, lasting ones first"
        yield Problem(f"{at}/overload_curve", shown(told), right)
    if station.total_cell_wh < LEAST_WH:
        right = f"at least {LEAST_WH:g} Wh in the head unit and its packs together: else nothing runs"
        yield Problem(f"{at}/cell_wh", shown(station.total_cell_wh), right)
    told_wh, told_at = station.delivered_wh, station.delivered_at_w
    if (told_wh is None) != (told_at is None):
        yield Problem(f"{at}/delivered_at_w", shown(told_at), "the mean load of that test, with its Wh")
    if told_wh is not None and station.cell_wh is not None:
        yield Problem(f"{at}/cell_wh", shown(station.cell_wh), "nothing: it follows from delivered_wh")
    restart, cutoff = station.restart_percent, station.cutoff_percent
    if restart is not None and restart <= cutoff:
        yield Problem(f"{at}/restart_percent", shown(restart), f"above the cut-off of {cutoff:g} %")
    packs = {f"/packs/{key}": pack.dc_inputs for key, pack in station.packs.items()}
    for room, inputs in {"": station.dc_inputs, **packs}.items():
        for key, entry in inputs.items():
            if entry.high_v is not None and entry.least_v >= entry.high_v:
                right = f"below the {entry.high_v:g} V that it takes at most"
                yield Problem(f"{at}{room}/dc_inputs/{key}/low_v", shown(entry.low_v), right)
    bank = station.bank
    if bank is not None and bank.lowest_v > bank.nominal_v:
        yield Problem(
            f"{at}/bank/lowest_v", shown(bank.lowest_v), f"at most the nominal {bank.nominal_v:g} V"
        )
    if bank is not None and bank.charge_v is not None and bank.charge_v < bank.nominal_v:
        yield Problem(
            f"{at}/bank/charge_v", shown(bank.charge_v), f"at least the nominal {bank.nominal_v:g} V"
        )


def _shared_links(plan: Plan) -> Iterator[Problem]:
    """Stations that are in two links of different kinds at once."""
    first: dict[str, str] = {}
    for key, link in plan.links.items():
        for end in ("leg_a", "leg_b"):
            station_id = getattr(link, end)
            other = first.setdefault(station_id, key)
            if other != key and plan.links[other].kind != link.kind:
                right = (
                    f"a station of its own: this one is in {plan.links[other].name}, and one cannot be on a "
                    "leg of a pair and side by side with another at once"
                )
                yield Problem(f"/links/{key}/{end}", shown(station_id), right)


def _engine_problems(plan: Plan) -> Iterator[Problem]:
    """Figures of a generator's plate that exclude each other."""
    for key, generator in plan.generators.items():
        starting, rated = generator.starting_w, generator.rated_w
        if starting is not None and starting < rated:
            right = f"at least the rated {rated:g} W"
            yield Problem(f"/generators/{key}/starting_w", shown(starting), right)
        if generator.leg_w is not None and generator.leg_w > rated:
            right = f"at most the rated {rated:g} W"
            yield Problem(f"/generators/{key}/leg_w", shown(generator.leg_w), right)
        if generator.quiet is not None and generator.quiet.begins == generator.quiet.ends:
            yield Problem(
                f"/generators/{key}/quiet/ends", shown(generator.quiet.ends), "another time than begins"
            )


def _plate_problems(plan: Plan) -> Iterator[Problem]:
    """Figures of one plate that exclude each other."""
    yield from _engine_problems(plan)
    for key, vehicle in plan.vehicles.items():
        low, high = vehicle.tops_up_below_percent, vehicle.tops_up_to_percent
        if high <= low:
            right = f"above the {low:g} % at which its engine starts"
            yield Problem(f"/vehicles/{key}/tops_up_to_percent", shown(high), right)
    for key, battery in plan.externals.items():
        if battery.lowest_v > battery.highest_v:
            right = f"at most the {battery.highest_v:g} V of a full one"
            yield Problem(f"/externals/{key}/lowest_v", shown(battery.lowest_v), right)
    for key, array in plan.arrays.items():
        times = [facing.at for facing in array.moved]
        if times != sorted(set(times)):
            yield Problem(f"/arrays/{key}/moved", shown([str(at) for at in times]), "times that rise")
        seen = array.seen
        if seen and (len(seen.t_s) != len(seen.watts) or list(seen.t_s) != sorted(set(seen.t_s))):
            yield Problem(f"/arrays/{key}/seen/t_s", f"{len(seen.t_s)} times", "as many as watts, rising")
        module = array.module
        if module.vmp_v is not None and module.voc_v is not None and module.vmp_v > module.voc_v:
            right = f"at most the open-circuit {module.voc_v:g} V"
            yield Problem(f"/arrays/{key}/module/vmp_v", shown(module.vmp_v), right)
        if module.imp_a is not None and module.isc_a is not None and module.imp_a > module.isc_a:
            right = f"at most the short-circuit {module.isc_a:g} A"
            yield Problem(f"/arrays/{key}/module/imp_a", shown(module.imp_a), right)


def _behaviour_problems(plan: Plan) -> Iterator[Problem]:
    for key, load in plan.loads.items():
        spec = load.behaviour
        if isinstance(spec, Cycling) and spec.hours and spec.hours.begins == spec.hours.ends:
            at, ends = f"/loads/{key}/behaviour/hours/ends", shown(str(spec.hours.ends))
            yield Problem(at, ends, "another time than begins; leave the hours out for any hour")
        if isinstance(spec, Measured):
            rises = (
                list(spec.t_s) == sorted(set(spec.t_s)) and spec.t_s[0] == 0 and spec.t_s[-1] < spec.length_s
            )
            if len(spec.t_s) != len(spec.watts) or not rises:
                right = "as many as watts, from 0, rising, below length_s"
                yield Problem(f"/loads/{key}/behaviour/t_s", f"{len(spec.t_s)} times", right)


def _reference_problems(plan: Plan) -> Iterator[Problem]:
    for key, panel in plan.panels.items():
        yield from missing(f"/panels/{key}/fed_from", panel.fed_from, plan.circuits, "circuit")
    yield from _loops(plan)
    for key, circuit in plan.circuits.items():
        yield from missing(f"/circuits/{key}/panel_id", circuit.panel_id, plan.panels, "panel")
        partner = circuit.multiwire_partner
        yield from missing(f"/circuits/{key}/multiwire_partner", partner, plan.circuits, "circuit")
        if partner in plan.circuits and plan.circuits[partner].multiwire_partner not in (None, key):
            right = f"a circuit other than “{plan.circuits[partner].label}”, which names another partner"
            yield Problem(f"/circuits/{key}/multiwire_partner", shown(partner), right)
        elif partner == key:
            yield Problem(f"/circuits/{key}/multiwire_partner", shown(partner), "another circuit than itself")
    for key, load in plan.loads.items():
        yield from missing(f"/loads/{key}/circuit_id", load.circuit_id, plan.circuits, "circuit")
        for index, source in enumerate(load.start.seen_on if load.start else ()):
            at, room = f"/loads/{key}/start/seen_on/{index}/id", getattr(plan, f"{source.kind}s")
            yield from missing(at, source.id, room, source.kind)
    yield from _feed_problems(plan)
    yield from lead_problems(plan)
    yield from _link_problems(plan)
    yield from _answer_problems(plan)
    yield from _gear_problems(plan)
    stores = {**plan.stations, **plan.vehicles, **plan.externals}
    for key in plan.outage.start_charge_percent:
        yield from missing(f"/outage/start_charge_percent/{key}", key, stores, "station")
    for key, packs in plan.outage.pack_charge_percent.items():
        yield from missing(f"/outage/pack_charge_percent/{key}", key, plan.stations, "station")
        for pack_id in packs if key in plan.stations else ():
            field = f"/outage/pack_charge_percent/{key}/{pack_id}"
            yield from missing(field, pack_id, plan.stations[key].packs, "pack of that station")
    for key, incident in plan.outage.incidents.items():
        yield from missing(f"/outage/incidents/{key}/load_id", incident.load_id, plan.loads, "load")
        yield from missing(f"/outage/incidents/{key}/lead_id", incident.lead_id, plan.leads, "lead")
        if incident.kind == "door_open" and incident.load_id is None:
            yield Problem(f"/outage/incidents/{key}/load_id", "nothing", "which load's door it is")
    yield from _act_problems(plan)
    for index, key in enumerate(plan.strategy.recovery_off):
        yield from missing(f"/strategy/recovery_off/{index}", key, plan.circuits, "circuit")
    yield from _sun_problems(plan)
    yield from rule_problems(plan)
    yield from _window_problems(plan)


def _act_problems(plan: Plan) -> Iterator[Problem]:
    """Acts with parts or packs that there are not."""
    for key, act in plan.outage.acts.items():
        at, part, pack = f"/outage/acts/{key}", act.part_id, act.pack_id
        yield from missing(f"{at}/part_id", part, getattr(plan, act.room), act.room[:-1])
        if pack is not None and act.room != "stations":
            yield Problem(f"{at}/pack_id", shown(pack), "nothing: only stations have packs")
        elif act.room == "stations" and part in plan.stations:
            yield from missing(f"{at}/pack_id", pack, plan.stations[part].packs, "pack of that station")
            if pack is not None and act.input_id is None and plan.stations[part].head_wh == 0:
                right = "nothing: packs of a station without cells of its own stay plugged in"
                yield Problem(f"{at}/pack_id", shown(pack), right)
        yield from _socket_problems(plan, at, act)


def _socket_problems(plan: Plan, at: str, act: Act) -> Iterator[Problem]:
    """Acts with outlets or inputs that there are not."""
    if act.outlet_id is not None:
        if act.room not in OUTLET_ROOMS:
            yield Problem(f"{at}/outlet_id", shown(act.outlet_id), "nothing: only sources have outlets")
        elif act.part_id in getattr(plan, act.room):
            outlets = plan.outlets_of(OUTLET_ROOMS[act.room], act.part_id)
            yield from missing(f"{at}/outlet_id", act.outlet_id, outlets, "outlet of that part")
    if act.input_id is not None:
        station = plan.stations.get(act.part_id) if act.room == "stations" else None
        if act.room != "stations":
            yield Problem(f"{at}/input_id", shown(act.input_id), "nothing: only stations have inputs")
        elif station is not None:
            pack = station.packs.get(act.pack_id or "")
            own = {**station.ac_inputs, **station.dc_inputs}
            inputs = own if act.pack_id is None else pack.dc_inputs if pack else {}
            yield from missing(f"{at}/input_id", act.input_id, inputs, "input of that station")
    if act.outlet_id is not None and act.input_id is not None:
        yield Problem(f"{at}/input_id", shown(act.input_id), "nothing beside an outlet: two acts")


def _sun_problems(plan: Plan) -> Iterator[Problem]:
    """Hours of a weather file that do not go together."""
    sun = plan.outage.weather.hourly_sun
    if sun is None:
        return
    for name in ("dni_w_m2", "dhi_w_m2"):
        if len(getattr(sun, name)) != len(sun.ghi_w_m2):
            right = f"as many as of ghi_w_m2: {len(sun.ghi_w_m2)}"
            yield Problem(f"/outage/weather/hourly_sun/{name}", f"{len(getattr(sun, name))} values", right)


def _window_problems(plan: Plan) -> Iterator[Problem]:
    """Grid windows that overlap: the grid is back only once at a time."""
    windows = sorted((item.at_s, item.for_s, key) for key, item in plan.outage.grid.items())
    for (at_s, for_s, _), (next_s, _, key) in pairwise(windows):
        if next_s < at_s + for_s:
            right = f"after the window before it, which ends at {at_s + for_s:g} s"
            yield Problem(f"/outage/grid/{key}/at_s", shown(next_s), right)


def _loops(plan: Plan) -> Iterator[Problem]:
    """Panels that feed themselves, directly or through others."""
    for key, panel in plan.panels.items():
        seen = {key}
        feeder = plan.circuits.get(panel.fed_from or "")
        while feeder is not None and feeder.panel_id in plan.panels:
            if feeder.panel_id in seen:
                yield Problem(f"/panels/{key}/fed_from", shown(panel.fed_from), "a circuit of another panel")
                break
            seen.add(feeder.panel_id)
            feeder = plan.circuits.get(plan.panels[feeder.panel_id].fed_from or "")


def _feed_problems(plan: Plan) -> Iterator[Problem]:
    for key, feed in plan.feeds.items():
        at = f"/feeds/{key}"
        yield from missing(f"{at}/panel_id", feed.panel_id, plan.panels, "panel")
        for circuit_id in feed.switch_legs:
            if circuit_id not in feed.circuit_ids:
                right = "a circuit that is wired to this switch"
                yield Problem(f"{at}/switch_legs/{circuit_id}", shown(circuit_id), right)
        for index, circuit_id in enumerate(feed.circuit_ids):
            yield from missing(f"{at}/circuit_ids/{index}", circuit_id, plan.circuits, "circuit")
        if feed.kind == "interlock_inlet" and not feed.breaker_spaces:
            yield Problem(
                f"{at}/breaker_spaces",
                "none",
                "the spaces of the feed breaker: free ones of one side; make room in the panel first",
            )
        if not feed.traits.breaker and feed.breaker_spaces:
            right = "none: only a back-fed breaker takes spaces"
            yield Problem(f"{at}/breaker_spaces", shown(feed.breaker_spaces), right)


def _answer_problems(plan: Plan) -> Iterator[Problem]:
    """Answers to checks that there are none of, or that cannot be waved away."""
    may = {row["check_id"]: row["answerable"] == "yes" for row in table("checks")}
    for key in plan.check_answers:
        check_id = key.partition("@")[0]
        if check_id not in may or "@" not in key:
            yield Problem(
                f"/check_answers/{key}", shown(key), "a check and an element, such as feed-sign@feeds/inlet"
            )
        elif not may[check_id]:
            right = "nothing: this finding cannot be answered, only mended"
            yield Problem(f"/check_answers/{key}", shown(key), right)


def _gear_problems(plan: Plan) -> Iterator[Problem]:
    for at, place_id in _placed(plan):
        yield from missing(f"{at}/place_id", place_id, plan.places, "place")
    joined: list[tuple[str, SolarArray | ExternalBattery]] = [
        *((f"/arrays/{key}", array) for key, array in plan.arrays.items()),
        *((f"/externals/{key}", battery) for key, battery in plan.externals.items()),
    ]
    for at, part in joined:
        yield from missing(f"{at}/station_id", part.station_id, plan.stations, "station")
        if part.station_id in plan.stations:
            packs = plan.stations[part.station_id].packs
            yield from missing(f"{at}/pack_id", part.pack_id, packs, "pack of that station")
            holder = "pack" if part.pack_id else "station"
            yield from missing(
                f"{at}/input_id", part.input_id, plan.dc_inputs_of(part), f"DC input of that {holder}"
            )


def _placed(plan: Plan) -> Iterator[tuple[str, str | None]]:
    """(where, place) of everything that stands somewhere."""
    for room in ("stations", "links", "generators", "arrays", "vehicles", "externals", "box", "loads"):
        for key, part in getattr(plan, room).items():
            yield f"/{room}/{key}", part.place_id
    for key, station in plan.stations.items():
        for pack_id, pack in station.packs.items():
            yield f"/stations/{key}/packs/{pack_id}", pack.place_id
    for key, lead in plan.leads.items():
        for joint, parts in (("cords", lead.cords), ("adapters", lead.adapters)):
            for index, part in enumerate(parts):
                yield f"/leads/{key}/{joint}/{index}", part.place_id


def _link_problems(plan: Plan) -> Iterator[Problem]:
    for key, link in plan.links.items():
        yield from missing(f"/links/{key}/leg_a", link.leg_a, plan.stations, "station")
        yield from missing(f"/links/{key}/leg_b", link.leg_b, plan.stations, "station")
        if link.leg_a == link.leg_b:
            yield Problem(f"/links/{key}/leg_b", shown(link.leg_b), "another station than on leg A")
        if key in plan.stations or key in plan.generators:
            yield Problem(f"/links/{key}", shown(key), "an id that no station has")


def _holder_of_breaker(plan: Plan, feed: Feed) -> str:
    """The feed that stands for a breaker: several that take turns through one inlet share it."""
    return min(
        key
        for key, other in plan.feeds.items()
        if (other.panel_id, other.breaker_spaces) == (feed.panel_id, feed.breaker_spaces)
    )


def _space_problems(plan: Plan) -> Iterator[Problem]:
    taken: dict[tuple[str, int, str], tuple[str, str]] = {}
    breakers = [
        (f"/circuits/{key}/spaces", item.label, item.panel_id, item.spaces, item.half)
        for key, item in plan.circuits.items()
    ] + [
        (f"/feeds/{key}/breaker_spaces", "feed breaker", item.panel_id, item.breaker_spaces, None)
        for key, item in plan.feeds.items()
        if key == _holder_of_breaker(plan, item)
    ]
    for field, label, panel_id, spaces, half in breakers:
        panel = plan.panels.get(panel_id)
        if panel is None:
            continue
        if len(spaces) == 2 and (spaces[1] - spaces[0] != 2):
            yield Problem(
                field, shown(spaces), "a two-pole breaker takes two spaces of one side, such as 5 and 7"
            )
        for space in spaces:
            if space > panel.spaces:
                yield Problem(field, str(space), f"{panel.name} has spaces 1 to {panel.spaces}")
            for part in (half,) if half else ("upper", "lower"):
                holder, holder_label = taken.setdefault((panel_id, space, part), (field, label))
                if holder != field:
                    yield Problem(field, f"space {space}", f"taken by “{holder_label}”; choose a free space")
                    break
