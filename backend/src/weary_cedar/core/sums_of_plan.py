"""Sums and a plan: figures of it that stand in for defaults, and results that go back into it."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.decide.string_layout import harvest
from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.electrical.dc_side import FARADS_PER_VA
from weary_cedar.core.electrical.inverter import cell_draw_w
from weary_cedar.core.errors import NotFound, Problem, shown
from weary_cedar.core.network import network_of
from weary_cedar.core.plan import (
    Cycling,
    ExternalBattery,
    Generator,
    Lead,
    Load,
    Plan,
    Refrigerating,
    SolarArray,
    Station,
    Thermostatic,
    Vehicle,
)
from weary_cedar.core.sums import SUMS, Found
from weary_cedar.core.supply.fuel import flow
from weary_cedar.core.supply.station_energy import delivered_wh, usable_wh
from weary_cedar.core.supply.sun import array_day

Json = dict[str, Any]
DAY_S = 86_400.0


@dataclass(frozen=True)
class Back:
    """A result that can go back into the plan: which, in words, and the merge patch that does it."""

    label: str
    words: str
    patch: Json


class Subject:
    """What a sum is about: one part of its room, and what belongs with it."""

    def __init__(self, plan: Plan, room: str | None, part_id: str | None) -> None:
        self.plan, self.room = plan, room
        parts: Mapping[str, Any] = getattr(plan, room) if room else {}
        if part_id is not None and part_id not in parts:
            problem = Problem("/about", shown(part_id), f"one of {', '.join(parts) or 'nothing'}")
            raise NotFound(f"There is no “{part_id}” for this sum.", (problem,))
        self.id = part_id or next(iter(parts), None)
        self.part = parts.get(self.id or "")

    @cached_property
    def station(self) -> Station | None:
        """The station itself, that of the array or battery, or else the one that is run."""
        if isinstance(self.part, Station):
            return self.part
        own = getattr(self.part, "station_id", None)
        if own is not None:
            return self.plan.stations[own]
        main = network_of(self.plan).main
        units = (self.plan.source_units(main.hookup) if main else {}) or self.plan.stations
        return next((units[key] for key in sorted(units)), None)

    @cached_property
    def mean_w(self) -> float:
        """Mean AC load of the plan, W."""
        return need_list(self.plan).wh_day / 24

    @cached_property
    def delivered(self) -> float | None:
        """AC energy of the station when full at the plan's mean load, Wh."""
        unit = self.station
        if unit is None:
            return None
        window = usable_wh(unit.total_cell_wh, 100.0, unit.cutoff_percent)
        return delivered_wh(window, self.mean_w, unit.inverter_efficiency, unit.idle_draw_w)


Reader = Callable[[Subject], float | None]


def _of(kind: type, read: Callable[[Any], float | None]) -> Reader:
    """A figure of the part that the sum is about, where it is of this kind."""
    return lambda subject: read(subject.part) if isinstance(subject.part, kind) else None


def _station(read: Callable[[Station], float | None]) -> Reader:
    return lambda subject: read(subject.station) if subject.station else None


def _running_a(subject: Subject) -> float | None:
    load = subject.part
    if not isinstance(load, Load) or not isinstance(load.behaviour, Cycling | Refrigerating | Thermostatic):
        return None
    spec = load.behaviour
    watts = spec.run_w if isinstance(spec, Thermostatic) else spec.on_w
    return watts / load.power_factor / _volts(subject)


def _volts(subject: Subject) -> float:
    load = subject.part
    poles = network_of(subject.plan).hangs[subject.id].poles if isinstance(load, Load) and subject.id else 1
    return subject.plan.site.leg_volts * (poles if subject.plan.site.split_phase else 1)


def _input_v(subject: Subject) -> float | None:
    array = subject.part
    entry = subject.plan.dc_input_of(array) if isinstance(array, SolarArray) else None
    return entry.high_v if entry else None


def _start_percent(subject: Subject) -> float | None:
    if not isinstance(subject.part, Station) or subject.id is None:
        return None
    return 100 * subject.plan.start_wh(subject.id) / subject.part.total_cell_wh


def _flow(index: int) -> Reader:
    def read(subject: Subject) -> float | None:
        flows = flow(subject.part) if isinstance(subject.part, Generator) else None
        return flows[index] if flows else None

    return read


def _pack_wh(unit: Station) -> float | None:
    return next((pack.nameplate_wh for pack in unit.packs.values()), None)


def _kept_w(leg: str) -> Reader:
    """On-watts of all that is kept on one leg at 120 V, or at 240 V across both."""

    def read(subject: Subject) -> float | None:
        plan = subject.plan
        if not plan.site.split_phase:
            return None
        wanted = ("A", "B") if leg == "both" else (leg,)
        network = network_of(plan)
        kept = [
            on_watts(plan.loads[key])
            for key, hang in network.hangs.items()
            if hang.mark == "keep" and network.legs_of(key) == wanted
        ]
        return sum(kept) if kept else None

    return read


def _sun_wh(subject: Subject) -> float | None:
    """What the station's arrays put into its cells on a clear day, the first of the outage."""
    plan = subject.plan
    arrays = [array for array in plan.arrays.values() if array.station_id == subject.id]
    if not arrays:
        return None
    total = 0.0
    for array in arrays:
        entry = plan.dc_input_of(array)
        if entry is not None:
            sun = array_day(plan.site, array, plan.outage.start_local.date(), plan.outage.weather.high_c)
            taken, _ = harvest(array.module, array.series, array.parallel, entry, sun)
            total += taken * entry.efficiency
    return total


def _charging_w(subject: Subject) -> float | None:
    settings = [r.setting_w for r in subject.plan.recharges.values() if r.from_id == subject.id]
    return sum(settings) or None


def _cell_draw(subject: Subject) -> float | None:
    unit = subject.station
    return cell_draw_w(subject.mean_w, unit.inverter_efficiency, unit.idle_draw_w) if unit else None


#: Figure → where it is in a plan; `sum.figure` goes before `figure`.
READERS: dict[str, Reader] = {
    "energy": _station(lambda unit: unit.total_cell_wh),
    "idle": _station(lambda unit: unit.idle_draw_w),
    "efficiency": _station(lambda unit: 100 * unit.inverter_efficiency),
    "cutoff": _station(lambda unit: unit.cutoff_percent),
    "charger": _station(lambda unit: 100 * unit.charge_efficiency),
    "load": lambda subject: round(subject.mean_w, 1) or None,
    "daily": lambda subject: round(24 * subject.mean_w) or None,
    "runtime.charge": _start_percent,
    "readings.delivered": lambda subject: subject.delivered,
    "discharge.to": _station(lambda unit: unit.cutoff_percent),
    "cord.length": _of(Lead, lambda lead: lead.cords[0].length_m if lead.cords else None),
    "cord.awg": _of(Lead, lambda lead: lead.cords[0].awg if lead.cords else None),
    "cord.volts": lambda subject: subject.plan.site.leg_volts,
    "string.voc": _of(SolarArray, lambda array: array.module.voc_v),
    "string.series": _of(SolarArray, lambda array: array.series),
    "string.beta": _of(SolarArray, lambda array: array.module.voc_percent_per_k),
    "string.coldest": lambda subject: subject.plan.site.design_low_c,
    "string.limit": _input_v,
    "charging.wall": _station(lambda unit: max((e.most_w for e in unit.ac_inputs.values()), default=None)),
    "charging.knee": _station(lambda unit: unit.tapers.knee_percent),
    "charging.end": _station(lambda unit: unit.tapers.end_percent),
    "charging.taper": _station(lambda unit: unit.tapers.reference_w or unit.most_charge_w or None),
    "dc.load": _station(lambda unit: unit.rated_va),
    "dc.volts": _station(lambda unit: unit.bank.lowest_v if unit.bank else None),
    "motor.locked": _of(Load, lambda load: load.locked_rotor_a),
    "motor.running": _running_a,
    "motor.volts": _volts,
    "motor.rated": _station(lambda unit: unit.rated_va),
    "generator.rated": _of(Generator, lambda generator: generator.rated_w),
    "generator.no_load": _flow(0),
    "generator.slope": _flow(1),
    "generator.tank": _of(Generator, lambda generator: generator.tank_l),
    "vehicle.tank": _of(Vehicle, lambda vehicle: vehicle.tank_l),
    "vehicle.per_l": _of(Vehicle, lambda vehicle: vehicle.kwh_per_l),
    "vehicle.battery": _of(Vehicle, lambda vehicle: vehicle.usable_kwh and 1000 * vehicle.usable_kwh),
    "generator.charge": _charging_w,
    "packs.pack": _station(_pack_wh),
    "packs.have": _station(lambda unit: unit.head_wh),
    "packs.days": lambda subject: subject.plan.outage.length_s / DAY_S,
    "packs.sun": _sun_wh,
    "legs.a": _kept_w("A"),
    "legs.b": _kept_w("B"),
    "legs.across": _kept_w("both"),
    "open-neutral.a": _kept_w("A"),
    "open-neutral.b": _kept_w("B"),
    "external.draw": _cell_draw,
    "precharge.farads": _station(lambda unit: FARADS_PER_VA * unit.rated_va if unit.bank else None),
    "cycles.daily": lambda subject: round(24 * subject.mean_w) or None,
    "external.energy": _of(ExternalBattery, lambda battery: battery.wh * battery.usable_share),
    "external.count": _of(ExternalBattery, lambda battery: battery.in_series * battery.parallel),
    "precharge.volts": _station(lambda unit: unit.bank.nominal_v if unit.bank else None),
    "cost.price": _station(lambda unit: unit.price),
    "cost.delivered": lambda subject: subject.delivered,
    "cost.cycles": _station(lambda unit: unit.cycle_life),
    "cycles.cycles": _station(lambda unit: unit.cycle_life),
    "cycles.delivered": lambda subject: subject.delivered,
}


def _in_part(subject: Subject, part: Json) -> Json:
    return {str(subject.room): {str(subject.id): part}}


def _charge(subject: Subject, value: float) -> Json:
    return {"outage": {"start_charge_percent": {str(subject.id): value}}}


def _cells(subject: Subject, value: float) -> Json | None:
    """What the head unit's cells give: the result less what the packs give."""
    unit = subject.part
    packs = unit.total_cell_wh - unit.head_wh if isinstance(unit, Station) else 0.0
    head = round(value - packs)
    return _in_part(subject, {"cell_wh": float(head), "capacity_origin": "measured"}) if head > 0 else None


def _pack_count(subject: Subject, value: float) -> Json | None:
    unit = subject.part
    key = next(iter(unit.packs), None) if isinstance(unit, Station) else None
    if key is None or not 1 <= value <= 50:
        return None
    return _in_part(subject, {"packs": {key: {"count": round(value)}}})


def _series(subject: Subject, value: float) -> Json | None:
    return _in_part(subject, {"series": round(value)}) if 1 <= value <= 40 else None


def _start(subject: Subject, value: float) -> Json:
    load = subject.part
    seconds = load.start.seconds if isinstance(load, Load) and load.start else 0.5
    return _in_part(subject, {"start": {"va": float(round(value)), "seconds": seconds}})


#: `sum.result` → what is changed, in words, and the patch.
WRITERS: dict[str, tuple[str, Callable[[Subject, float], Json | None]]] = {
    "readings.lower reading": ("charge at the start", _charge),
    "discharge.cells really give": ("measured energy of the cells", _cells),
    "string.most in series": ("modules in series", _series),
    "motor.start at most": ("start", _start),
    "packs.packs": ("packs", _pack_count),
}


def filled(plan: Plan, name: str, about: str | None = None) -> dict[str, float]:
    """Figures of a sum that a plan knows.

    Args:
        plan: the plan.
        name: of the sum.
        about: part of its room; the first if absent.

    Returns:
        Figure → value in the unit of the sum; those that the plan does not know, or that are
        outside what the sum takes, are left out.

    Raises:
        NotFound: no such sum, or no such part.
    """
    if name not in SUMS:
        raise NotFound(
            f"There is no sum “{name}”.", (Problem("/name", shown(name), f"one of {', '.join(SUMS)}"),)
        )
    subject = Subject(plan, SUMS[name].room, about)
    known = {}
    for item in SUMS[name].given:
        read = READERS.get(f"{name}.{item.key}") or READERS.get(item.key)
        value = read(subject) if read else None
        if value is not None and item.least <= value <= item.most:
            known[item.key] = float(value)
    return known


def backs(plan: Plan, name: str, results: list[Found], about: str | None = None) -> list[Back]:
    """Results of a sum that can go back into a plan, each with its merge patch.

    Args:
        plan: the plan.
        name: of the sum.
        results: what came out.
        about: part of the sum's room; the first if absent.

    Raises:
        NotFound: no such part.
    """
    subject = Subject(plan, SUMS[name].room, about)
    if subject.part is None:
        return []
    found = []
    for result in results:
        words, write = WRITERS.get(f"{name}.{result.label}", ("", None))
        patch = write(subject, result.value) if write else None
        if patch is not None:
            found.append(Back(result.label, f"{words} of {subject.part.name}", patch))
    return found


def part_names(plan: Plan, room: str | None) -> dict[str, str]:
    """Parts of a room by id with their names, in order; none without a room."""
    if room is None:
        return {}
    names = {}
    for key, part in getattr(plan, room).items():
        names[key] = plan.lead_name(key) if isinstance(part, Lead) else part.name
    return names
