"""From a plan to the parts of its run: carriers, ways, links, units, reserves, sun."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import time
from typing import ClassVar

from weary_cedar.core.electrical.pv_string import coldest_string_v
from weary_cedar.core.network import ACROSS, LEG_A, LEG_B, Network, Way
from weary_cedar.core.network.feed_limits import way_elements
from weary_cedar.core.network.neutral_states import floats_at
from weary_cedar.core.network.wires import one_way_ohms
from weary_cedar.core.outage.calendar import Calendar
from weary_cedar.core.outage.carriers import EngineCarrier, GridCarrier, StationCarrier, VehicleCarrier
from weary_cedar.core.outage.cells_air import cold_spans
from weary_cedar.core.outage.connected import ConnectedCircuit, ConnectedLoad, connect
from weary_cedar.core.outage.tree import Carrier, LiveLink, LiveWay
from weary_cedar.core.outage.weather import OutdoorTemperature
from weary_cedar.core.plan import (
    DcInput,
    Facing,
    Hookup,
    OrderRule,
    Plan,
    Recharge,
    SolarArray,
    Station,
    ToFeed,
    TurnRule,
)
from weary_cedar.core.supply.engine import Engine
from weary_cedar.core.supply.reserve import Reserve, external_reserve, vehicle_reserve
from weary_cedar.core.supply.sun_course import SunPoint, sun_points
from weary_cedar.core.supply.unit import Offer, Unit


class SunInput:
    """The arrays of one DC input: their course over the outage, and the offer that they make."""

    STATE: ClassVar[str] = "offered_wh offered_w since_s next_point rows"

    def __init__(self, key: str, name: str, unit: Unit, offer: Offer, points: list[SunPoint]) -> None:
        self.key = key
        self.name = name
        self.unit = unit
        self.offer = offer
        self.points = points
        self.offered_wh = self.offered_w = self.since_s = 0.0
        #: The point of its course that comes next.
        self.next_point = 0
        #: (s, offered W, taken W) at every change.
        self.rows: list[tuple[float, float, float]] = []

    def note(self, t: float) -> None:
        """Keep what is offered and taken from now on."""
        row = (t, self.offered_w, self.offer.now_w())
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = row
        elif not self.rows or self.rows[-1][1:] != row[1:]:
            self.rows.append(row)


class DcLead:
    """A vehicle's 12 V socket or an external battery on a DC input."""

    STATE: ClassVar[str] = "plugged off_by rows"

    def __init__(
        self,
        key: str,
        name: str,
        carrier: StationCarrier,
        offer: Offer,
        reserve: Reserve,
        watts: float,
        recharge: Recharge | None = None,
    ) -> None:
        self.key = key
        self.name = name
        self.carrier = carrier
        self.offer = offer
        self.reserve = reserve
        self.watts = watts
        self.recharge = recharge
        #: One of a vehicle is plugged in by its rule; an external battery is there.
        self.plugged = recharge is None
        #: Acts that hold it off, by what they switched.
        self.off_by: set[str] = set()
        #: (s, W taken) from each change on.
        self.rows: list[tuple[float, float]] = []

    def note(self, t: float) -> None:
        """Keep what is taken from now on."""
        watts = self.offer.now_w() if self.offer.wall_w else 0.0
        if self.rows and self.rows[-1][0] == t:
            self.rows[-1] = (t, watts)
        elif watts != (self.rows[-1][1] if self.rows else 0.0):
            self.rows.append((t, watts))


@dataclass
class Parts:
    """Everything with a clock in one run."""

    circuits: list[ConnectedCircuit]
    loads: list[ConnectedLoad]
    units: dict[str, Unit] = field(default_factory=dict)
    carriers: dict[str, Carrier] = field(default_factory=dict)
    #: Station id → the carrier that it gives through.
    of_station: dict[str, StationCarrier] = field(default_factory=dict)
    ways: list[LiveWay] = field(default_factory=list)
    links: list[LiveLink] = field(default_factory=list)
    suns: list[SunInput] = field(default_factory=list)
    leads: list[DcLead] = field(default_factory=list)
    reserves: dict[str, Reserve] = field(default_factory=dict)
    grid: GridCarrier | None = None
    #: What the plan owns and the run does not use, with why.
    unused: list[tuple[str, str]] = field(default_factory=list)
    #: What was taken for granted because the plan does not say.
    assumed: list[str] = field(default_factory=list)


def assemble(plan: Plan, network: Network, calendar: Calendar, outdoors: OutdoorTemperature) -> Parts:
    """Compile a plan, whose parts are in order, into the parts of its run."""
    circuits, loads = connect(plan, network, calendar, outdoors)
    parts = Parts(circuits, loads)
    _stations(plan, parts, calendar, outdoors)
    for key, generator in plan.generators.items():
        parts.carriers[f"generators/{key}"] = EngineCarrier(Engine(key, generator))
    for key, vehicle in plan.vehicles.items():
        reserve = vehicle_reserve(key, vehicle, plan.outage.start_charge_percent.get(key, 100.0))
        parts.reserves[f"vehicles/{key}"] = reserve
        parts.carriers[f"vehicles/{key}"] = VehicleCarrier(key, vehicle, reserve)
    if plan.outage.grid:
        parts.grid = GridCarrier()
        parts.carriers["grid"] = parts.grid
    for way in network.running:
        parts.ways.append(_way(plan, parts, way))
    for recharge_id, recharge in plan.recharges.items():
        _recharge(plan, parts, recharge_id, recharge)
    _arrays(plan, parts, outdoors)
    _externals(plan, parts)
    rank = _ranks(plan, parts)
    for unit in parts.units.values():
        for offer in unit.offers:
            offer.rank = rank(offer)
        unit.offers.sort(key=lambda offer: (offer.rank, offer.kind))
    parts.links.sort(key=lambda link: (link.offer.rank, -link.setting_w))
    _name_idle(plan, parts, network)
    return parts


def _name_idle(plan: Plan, parts: Parts, network: Network) -> None:
    """What the plan owns and the run does not use, and what was taken for granted."""
    ended = {lead.to.feed_id for lead in plan.leads.values() if isinstance(lead.to, ToFeed)}
    for key, feed in plan.feeds.items():
        if key not in ended:
            name = feed.name or f"the feed of {plan.panels[feed.panel_id].name}"
            parts.unused.append((name, "nothing is plugged into it"))
    for key, hang in network.hangs.items():
        if hang.circuit_id is None and hang.lead_id is None:
            parts.unused.append((plan.loads[key].name, "it hangs on no breaker and on no lead"))
    for way in network.ways:
        if way.why_not:
            parts.unused.append((way.name, way.why_not))
        parts.assumed.extend(way.assumed)


def _stations(plan: Plan, parts: Parts, calendar: Calendar, outdoors: OutdoorTemperature) -> None:
    linked = {key: link_id for link_id, link in plan.links.items() for key in (link.leg_a, link.leg_b)}
    stores = ("station", "link")
    fed = {hookup.source_id for hookup in plan.hookups.values() if hookup.source_kind in stores}
    for key, station in plan.stations.items():
        begins = plan.outage.start_charge_percent.get(key, 100.0)
        packs = plan.outage.pack_charge_percent.get(key, {})
        comes = {pack_id: act.turn for pack_id, act in plan.outage.pack_acts(key).items()}
        told = comes or any(pack.reading_offset_percent for pack in station.packs.values())
        percents = packs if packs or not told else dict.fromkeys(station.packs, begins)
        unplugged = [pack_id for pack_id, turn in comes.items() if turn == "on"]
        unit = Unit(key, station, begins, percents, unplugged)
        if unit.packs is not None and comes:
            unit.packs.ever_apart = True
        unit.blocked_spans = cold_spans(plan, station, calendar, outdoors)
        parts.units[key] = unit
    for link_id, link in plan.links.items():
        if link_id not in fed and {link.leg_a, link.leg_b} & fed:
            continue
        units = [parts.units[link.leg_a], parts.units[link.leg_b]]
        carrier = StationCarrier(link_id, [unit.station for unit in units], units, link)
        parts.carriers[f"links/{link_id}"] = carrier
        parts.of_station |= {link.leg_a: carrier, link.leg_b: carrier}
    for key, station in plan.stations.items():
        if key not in parts.of_station and (key not in linked or key not in parts.of_station):
            carrier = StationCarrier(key, [station], [parts.units[key]], None)
            parts.carriers[f"stations/{key}"] = carrier
            parts.of_station[key] = carrier


def _source(parts: Parts, hookup: Hookup) -> Carrier:
    if hookup.source_kind == "station":
        return parts.of_station[hookup.source_id]
    return parts.carriers[f"{hookup.source_kind}s/{hookup.source_id}"]


def _way(plan: Plan, parts: Parts, way: Way) -> LiveWay:
    feed = way.hookup
    receptacle = plan.outlet(feed)
    carrier = _source(parts, feed)
    live = LiveWay(way, carrier, way_elements(plan, feed), plan.site.leg_volts, one_way_ohms(feed))
    carrier.ways.append(live)
    live.dark_while_charging = receptacle.live_while_charging == "no"
    live.floats = frozenset(state.via for state in floats_at(plan, feed))
    return live


def _recharge(plan: Plan, parts: Parts, key: str, recharge: Recharge) -> None:
    unit = parts.units[recharge.station_id]
    station = unit.station
    entry = station.ac_inputs.get(recharge.input_id)
    if entry is None:
        _vehicle_lead(plan, parts, key, recharge, station)
        return
    if recharge.plugged == "grid" and recharge.kind != "circuit":
        parts.unused.append(
            (recharge.name, "it is plugged in with the grid only, and its source is not the grid")
        )
        return
    if recharge.plugged == "grid" and not plan.outage.grid:
        parts.unused.append((recharge.name, "it needs the grid, which does not come back in this outage"))
        return
    if recharge.kind == "generator":
        generator = plan.generators[recharge.from_id]
        if generator.waveform in station.refuses:
            words = f"the charger of {station.name} refuses {generator.waveform} generators"
            parts.unused.append((recharge.name, words))
            return
    if recharge.kind == "vehicle" and plan.vehicles[recharge.from_id].outlet not in ("ac_120", "ac_230"):
        words = f"{plan.vehicles[recharge.from_id].name} gives direct current, and this input takes AC"
        parts.unused.append((recharge.name, words))
        return
    link = LiveLink(key, recharge, unit, entry, _link_leg(plan, recharge, entry.volts))
    link.carrier = parts.of_station[recharge.station_id]
    kit = link.carrier.link
    if kit is not None and kit.ac_charging == "unknown":
        parts.assumed.append(f"{kit.name} takes no AC charge while it is on: it is not known whether it does")
    if recharge.kind == "station" and recharge.outlet_id:
        outlet = plan.stations[recharge.from_id].receptacles.get(recharge.outlet_id)
        link.dark_while_charging = outlet is not None and outlet.live_while_charging == "no"
    unit.offers.append(link.offer)
    parts.links.append(link)


def _link_leg(plan: Plan, recharge: Recharge, volts: int) -> int:
    """Leg of a charger at what it is plugged into."""
    if not plan.site.split_phase:
        return LEG_A
    if recharge.kind == "circuit":
        legs = plan.circuit_legs(recharge.from_id)
        if len(legs) == 2:
            return ACROSS
        return LEG_A if legs[0] == "A" else LEG_B
    if recharge.kind not in ("generator", "station"):
        return LEG_A
    source = (plan.generators if recharge.kind == "generator" else plan.stations)[recharge.from_id]
    if volts == 240 and source.output == "120/240":
        return ACROSS
    outlet = source.receptacles.get(recharge.outlet_id or "")
    return LEG_B if outlet is not None and outlet.leg == "B" else LEG_A


def _vehicle_lead(plan: Plan, parts: Parts, key: str, recharge: Recharge, station: Station) -> None:
    entry = station.dc_inputs[recharge.input_id]
    vehicle = plan.vehicles[recharge.from_id]
    if vehicle.outlet not in ("socket_12v", "battery_12v"):
        parts.unused.append((recharge.name, f"{vehicle.name} gives AC, and this input takes direct current"))
        return
    limits = [vehicle.lasting_w, entry.most_w / recharge.converter_efficiency, vehicle.supply_12v_w]
    limits += [recharge.setting_w if recharge.said else None, recharge.converter_w]
    if vehicle.socket_fuse_a is not None:
        limits.append(vehicle.socket_fuse_a * vehicle.socket_v)
    watts = min(limit for limit in limits if limit is not None)
    unit = parts.units[recharge.station_id]
    reserve = parts.reserves[f"vehicles/{recharge.from_id}"]
    offer = Offer(unit, "vehicle", key, 1, entry.efficiency * recharge.converter_efficiency)
    unit.offers.append(offer)
    reserve.offers.append(offer)
    carrier = parts.of_station[recharge.station_id]
    parts.leads.append(DcLead(key, recharge.name, carrier, offer, reserve, watts, recharge))


def _arrays(plan: Plan, parts: Parts, outdoors: OutdoorTemperature) -> None:
    joined: dict[tuple[str, str, str], list[str]] = {}
    for key, array in plan.arrays.items():
        if array.kind == "grid_tied":
            parts.unused.append((array.name, "it gives nothing while the utility is off"))
        elif array.station_id is None or array.input_id is None:
            parts.unused.append((array.name, "it is joined to no input"))
        else:
            joined.setdefault((array.station_id, array.pack_id or "", array.input_id), []).append(key)
    coldest_c = min(outdoors.at(hour * 3600.0) for hour in range(int(plan.outage.length_s // 3600) + 1))
    for (station_id, _, input_id), keys in joined.items():
        arrays = {key: turned_as_told(plan, key) for key in keys}
        entry = plan.dc_input_of(arrays[keys[0]])
        unit = parts.units[station_id]
        if entry is None:
            continue
        for key in [key for key, array in arrays.items() if _over(array, entry, coldest_c)]:
            volts = coldest_string_v(arrays[key].module, arrays[key].series, coldest_c)
            words = (
                f"its string reaches {volts:.0f} V in the cold, over the {entry.high_v or 0:g} V of its input"
            )
            parts.unused.append((arrays.pop(key).name, f"{words}: it gives nothing"))
        if not arrays:
            continue
        name = " and ".join(array.name for array in arrays.values())
        offer = Offer(unit, "sun", f"{station_id}/{input_id}/{keys[0]}", 0, entry.efficiency)
        unit.offers.append(offer)
        parts.suns.append(
            SunInput(next(iter(arrays)), name, unit, offer, sun_points(plan, arrays, entry, outdoors.at))
        )


def _over(array: SolarArray, entry: DcInput, coldest_c: float) -> bool:
    """Whether a string comes over what its input takes, which then gives nothing or breaks."""
    if array.seen is not None or array.module.voc_v is None or entry.high_v is None:
        return False
    return coldest_string_v(array.module, array.series, coldest_c) > entry.high_v


def turned_as_told(plan: Plan, key: str) -> SolarArray:
    """An array with the hours at which rules turn it, besides its own; of two at one time the rule counts."""
    array = plan.arrays[key]
    told = {
        rule.at: Facing(at=rule.at, tilt_deg=rule.tilt_deg, azimuth_deg=rule.azimuth_deg)
        for rule in reversed(plan.strategy.followed(TurnRule))
        if rule.array_id == key
    }
    if not told:
        return array
    own = Facing(at=time(0, 0), tilt_deg=array.tilt_deg, azimuth_deg=array.azimuth_deg)
    facings = {facing.at: facing for facing in array.moved or (own,)} | told
    return array.model_copy(update={"moved": tuple(facings[at] for at in sorted(facings))})


def _ranks(plan: Plan, parts: Parts) -> Callable[[Offer], int]:
    """Place of an offer among what recharges a unit: as the first rule about it says, else as is usual."""
    rules = plan.strategy.followed(OrderRule)
    wall = {"circuit": "wall", "generator": "engine"}
    named = {link.offer.key: wall.get(link.recharge.kind, link.recharge.kind) for link in parts.links}

    def rank(offer: Offer) -> int:
        kind = named.get(offer.key, offer.kind) if offer.kind == "wall" else offer.kind
        told = [str(source) for source in rules[0].sources] if rules else []
        return told.index(kind) if kind in told else len(told) + offer.rank

    return rank


def _externals(plan: Plan, parts: Parts) -> None:
    for key, battery in plan.externals.items():
        entry = plan.dc_input_of(battery)
        if battery.station_id is None or entry is None:
            parts.unused.append((battery.name, "it is joined to no input"))
            continue
        if (
            entry.high_v is not None and battery.highest_v * battery.in_series > entry.high_v
        ) or battery.lowest_v * battery.in_series < entry.least_v:
            parts.unused.append((battery.name, "its volts do not fit the input"))
            continue
        percent = plan.outage.start_charge_percent.get(key, 100.0)
        reserve = external_reserve(key, battery, percent)
        parts.reserves[f"externals/{key}"] = reserve
        unit = parts.units[battery.station_id]
        offer = Offer(unit, "battery", key, 3, battery.transfer_efficiency)
        unit.offers.append(offer)
        reserve.offers.append(offer)
        volts = battery.lowest_v * battery.in_series
        most_w = entry.most_w if entry.most_a is None else min(entry.most_w, entry.most_a * volts)
        watts = min(battery.gives_w or most_w, most_w)
        parts.leads.append(
            DcLead(key, battery.name, parts.of_station[battery.station_id], offer, reserve, watts)
        )
