"""What a run took for granted because nobody said it, each with what it moves."""

from collections.abc import Iterator

from weary_cedar.core.electrical.pv_string import unread
from weary_cedar.core.network.wires import cord_ohms
from weary_cedar.core.outage.assemble import DcLead
from weary_cedar.core.outage.carriers import EngineCarrier
from weary_cedar.core.outage.kernel import OutageRun
from weary_cedar.core.outage.tree import LiveLink
from weary_cedar.core.plan import Lead, Occupancy, Plan
from weary_cedar.core.plan.outage import Outage
from weary_cedar.core.plan.unread import unread_figures


def assumed(run: OutageRun) -> tuple[str, ...]:
    """Everything that the plan does not say and the run counts with, in words.

    Args:
        run: a run that has gone to its end.

    Returns:
        Lines, each once: of engines and vehicles, stations, cords and chargers, sky, hours and loads.

    Source: defaults of this program; each is common practice and no more favourable than what plates say.
    """
    parts = (_engines, _stations, _leads, _people, _loads, _vehicles)
    words = list(run.parts.assumed)
    for part in parts:
        words.extend(part(run))
    words.extend(unread_figures(run.plan))
    return tuple(dict.fromkeys(words))


def _engines(run: OutageRun) -> Iterator[str]:
    for control in run.engines:
        engine, name = control.carrier.engine, control.carrier.name
        generator = engine.generator
        if generator.on_hand_l is None and generator.fuel != "natural_gas" and engine.starts:
            yield f"fuel for {name} never ends: how much is on hand is not known"
        if control.line is None and control.links:
            low, high = control.levels()
            yield f"{name} runs from {low:g} % to {high:g} %: no rule of the plan says when"
    for carrier in run.carriers:
        if isinstance(carrier, EngineCarrier) and carrier.engine.starts:
            plate = carrier.engine.generator
            if plate.no_load_l_per_h is None or plate.l_per_kwh is None:
                yield f"{carrier.name} burns what is usual of its rating: that moves how long its fuel lasts"


def _stations(run: OutageRun) -> Iterator[str]:
    told = run.plan.outage.start_charge_percent
    for unit in run.measured:
        if unit.key not in told:
            yield f"{unit.name} is full when the power goes out: its charge is not said"
        if unit.station.idle_origin == "library":
            watts = unit.station.idle_draw_w
            day = f"{24 * watts / 1000:.1f} kWh a day"
            yield f"{unit.name} takes {watts:.0f} W for itself, as is usual of its size: {day}"
    for sun in run.parts.suns:
        array = run.plan.arrays.get(sun.key)
        entry = run.plan.dc_input_of(array) if array else None
        missing = unread(array.module, entry) if array and entry and array.seen is None else ""
        if missing:
            yield f"{sun.name}: counted as fitting its input, though not known are {missing}"
    arrays, weather = run.plan.arrays, run.plan.outage.weather
    modelled = any(sun.key in arrays and arrays[sun.key].seen is None for sun in run.parts.suns)
    if modelled and weather.hourly_sun is None and not weather.sky:
        kinds = ", ".join(kind.replace("_", " ") for kind in run.plan.sky[:4])
        yield f"the sky is the usual mix of the season ({kinds}, …): no kind of day is chosen"


def _leads(run: OutageRun) -> Iterator[str]:
    """Cords that nobody measured, and chargers that nobody set."""
    plan = run.plan
    for way in run.ways:
        if way.key:
            yield from _cords(plan, way.key, plan.leads[way.key])
    taken: list[LiveLink | DcLead] = [*run.links, *run.parts.leads]
    for link in taken:
        recharge = link.recharge
        if recharge is None:
            continue
        if not recharge.said:
            watts = f"{recharge.setting_w:,.0f} W"
            yield f"{recharge.name}: it charges with as much as its input takes, {watts}"
        yield from _cords(plan, recharge.lead_id, plan.leads[recharge.lead_id])


def _cords(plan: Plan, key: str, lead: Lead) -> Iterator[str]:
    if lead.source.kind == "circuit":
        return
    name, usual = plan.lead_name(key), [cord for cord in lead.cords if cord.usual]
    if usual:
        length = plan.site.units.told_length(sum(cord.counted_m for cord in usual))
        lost_w = 2 * cord_ohms(usual) * 10.0**2
        size = f"{length} of {usual[0].size}"
        yield f"{name}: its cord is {size}, as is mostly sold: {lost_w:.0f} W are lost in it at 10 A"
    elif not lead.cords and lead.source.kind != "vehicle":
        yield f"{name}: no cord is said, so nothing is lost in one: mostly under 3 % of what it carries"


def _people(run: OutageRun) -> Iterator[str]:
    """Hours that nobody chose, where someone has to be there."""
    plan = run.plan
    engines = [control.carrier.engine.generator for control in run.engines]
    by_hand = plan.strategy.shedding == "by_hand" or any(not engine.auto_start for engine in engines)
    if by_hand and plan.outage.occupancy == Occupancy():
        told = plan.site.units.told_time
        wakes, sleeps = told(plan.outage.occupancy.wakes), told(plan.outage.occupancy.sleeps)
        yield f"someone is at home, awake from {wakes} to {sleeps}: that moves all that is done by hand"
    usual_s = Outage.model_fields["changeover_after_s"].default
    if run.changeover_s == usual_s and any(not way.way.automatic for way in run.ways if way.key):
        yield f"it is changed over {usual_s / 60:.0f} min after the cut, as is usual"


def _loads(run: OutageRun) -> Iterator[str]:
    unsaid = [
        load.name
        for load in run.loads
        if load.start is None
        and not load.load.soft_start
        and (load.load.compressor or load.load.role == "pump")
    ]
    if unsaid:
        names = ", ".join(dict.fromkeys(unsaid))
        yield f"no start is said of {names}: the run starts it like a lamp; the checks take its class's start"
    guessed = [load for load in run.loads if load.load.power_factor_origin == "estimate"]
    if guessed:
        yield f"power factors of {len(guessed)} loads are guessed: they move currents, not energy"
    typical = [load for load in run.loads if load.load.origin in ("estimate", "library")]
    if typical:
        yield f"what {len(typical)} loads draw is guessed or typical: that moves most how long it lasts"


def _vehicles(run: OutageRun) -> Iterator[str]:
    told = run.plan.outage.start_charge_percent
    for place, reserve in run.parts.reserves.items():
        if not reserve.known and place.startswith("vehicles/"):
            yield f"{reserve.name} never runs out: neither its battery nor its tank is known"
        elif reserve.key not in told and reserve.drawn_wh > 0:
            yield f"{reserve.name} is full when the power goes out: its charge is not said"
