"""For everything that heats: on the station, by the engine, or by gas, with what each takes."""

from collections.abc import Sequence
from typing import Final, Literal

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.demand.rated import on_watts
from weary_cedar.core.network import network_of
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Generator, Load, Plan, Thermostatic
from weary_cedar.core.plan.ids import free_id
from weary_cedar.core.plan.load import Job
from weary_cedar.core.plan.outage import Act
from weary_cedar.core.supply.fuel import flow, typical_flow
from weary_cedar.core.tables import table

DAY_S: Final = 86_400.0
Purpose = Literal["space", "water", "cooking"]
Which = Literal["station", "engine", "gas"]
#: A heater that moves so much more heat than it draws burns fuel, or is a heat pump. Common practice.
BURNS_FACTOR: Final = 6.0
#: What of its heat arrives: electricity in the room, in water, in a pot; gas likewise. Common practice.
ELECTRIC: Final = {"space": 1.0, "water": 0.95, "cooking": 0.8}
GAS: Final = {"space": 0.8, "water": 0.75, "cooking": 0.4}
#: An engine gives its kWh at this share of its rating.
AT_SHARE: Final = 0.75
#: A load under this share of all that is drawn is left where it is; one that draws so much is heavy, W.
SMALL_SHARE: Final = 0.05
#: An hour of it takes so much of all that is stored, % : it is not for the station.
HEAVY_PERCENT: Final = 15.0
#: A gain under this is none, s; so is fuel, L a day; a large share of all that is drawn.
LONGER_S, LEAST_L_DAY, LARGE_SHARE = 3_600.0, 0.3, 0.15
CAUTION: Final = (
    "Gas and engines make carbon monoxide: nothing unvented where people sleep, engines outdoors and away "
    "from windows, an alarm on each floor; local code and the maker's sheet come first."
)


class HeatFigures(BaseModel):
    """The figures of one thing that heats."""

    model_config = ConfigDict(frozen=True)

    #: What it draws, and what heat that makes, kWh a day.
    kwh_day: float
    heat_kwh_day: float
    #: Share of all that is drawn.
    share: float
    #: How much longer it lasts without it, s; and how much is then left at the end, % of charge.
    longer_s: float
    more_left_percent: float
    #: What an engine burns for it: by the runs with and without it, and if an engine alone made it, L a day.
    litres_saved_day: float
    litres_day: float
    #: Litres of propane that make the same heat; nothing where it burns fuel already.
    propane_l_day: float | None


class HeatChoice(HeatFigures):
    """One thing that heats: what it takes each way, and which one is said."""

    load_id: str
    name: str
    purpose: Purpose
    which: Which
    sentence: str


class HeatChoices(BaseModel):
    """All that heats, what takes most first."""

    model_config = ConfigDict(frozen=True)

    choices: tuple[HeatChoice, ...] = ()
    caution: str = CAUTION
    why_not: str = ""


def heat_choices(plan: Plan, run: RunResult, stops: Sequence[str] = ()) -> HeatChoices:
    """What heats a house: hours of the station, litres of an engine, or gas.

    Args:
        plan: the plan.
        run: of that plan.
        stops: what forbids to energise it, in words; nothing else is told then.

    Returns:
        For each load that heats a room, water or food and that a feed reaches: what it draws and what heat
        that makes a day; how much longer the outage lasts without it, by a run; what an engine burns for it
        and what propane would make the same heat, L a day; and in a sentence which.

    Formula: heat = electricity · share that arrives; propane = heat / (share that arrives · kWh/L).
    Source: heat of fuels from fuels.csv; shares are common practice.
    """
    if stops:
        return HeatChoices(why_not=f"this must not be energised: {stops[0]}")
    if run.verdict.status == "cannot_judge":
        return HeatChoices(why_not="; ".join(run.verdict.missing))
    network = network_of(plan)
    found = [
        _choice(plan, run, key, load, purpose)
        for key, load in plan.loads.items()
        if (purpose := _purpose(load)) is not None
        and network.hangs[key].branch in network.branches
        and network.hangs[key].mark != "off"
    ]
    choices = tuple(sorted((c for c in found if c.kwh_day > 0), key=lambda c: (-c.kwh_day, c.load_id)))
    return HeatChoices(choices=choices, why_not="" if choices else "nothing that heats hangs on a feed")


def _purpose(load: Load) -> Purpose | None:
    spec = load.behaviour
    if isinstance(spec, Thermostatic):
        return "space" if spec.mode == "heat" else None
    if load.role == "heat":
        return "space"
    if load.role == "hot":
        return "cooking" if isinstance(spec, Job) else "water"
    return None


def _choice(plan: Plan, run: RunResult, key: str, load: Load, purpose: Purpose) -> HeatChoice:
    days = run.length_s / DAY_S
    share = run.loads.get(key)
    wanted_wh = share.served_wh + share.unserved_wh if share else 0.0
    kwh = wanted_wh / 1000.0 / days
    whole = sum(item.served_wh + item.unserved_wh for item in run.loads.values())
    without = run_outage(_without(plan, key))
    spec = load.behaviour
    burns = isinstance(spec, Thermostatic) and spec.output_w >= BURNS_FACTOR * max(spec.run_w, 1.0)
    per_w = spec.output_w / max(spec.run_w, 1.0) if isinstance(spec, Thermostatic) else ELECTRIC[purpose]
    heat = kwh * per_w
    engine = max(plan.generators.values(), key=lambda g: g.rated_w, default=None)
    known = HeatFigures(
        kwh_day=kwh,
        heat_kwh_day=heat,
        share=wanted_wh / whole if whole else 0.0,
        longer_s=_lasted(without) - _lasted(run),
        more_left_percent=_left(without) - _left(run),
        litres_saved_day=max(0.0, _litres(run) - _litres(without)) / days,
        litres_day=kwh * _l_per_kwh(engine),
        propane_l_day=None if burns else heat / (GAS[purpose] * _propane_kwh_l()),
    )
    decides = run.verdict.status != "lasts" and without.verdict.status == "lasts"
    which, sentence = _which(plan, known, _hour_percent(plan, load), decides=decides)
    return HeatChoice(
        load_id=key, name=load.name, purpose=purpose, which=which, sentence=sentence, **known.model_dump()
    )


def _without(plan: Plan, key: str) -> Plan:
    """The plan with one load switched off from the beginning."""
    act = Act(at_s=0.0, room="loads", part_id=key, turn="off")
    acts = {free_id("without", set(plan.outage.acts), "act"): act, **plan.outage.acts}
    return plan.model_copy(update={"outage": plan.outage.model_copy(update={"acts": acts})})


def _lasted(run: RunResult) -> float:
    return run.length_s if run.verdict.until_s is None else run.verdict.until_s


def _left(run: RunResult) -> float:
    return run.series.charge_percent[-1] if run.series.charge_percent else 0.0


def _litres(run: RunResult) -> float:
    return sum(share.burned_l or 0.0 for share in run.sources.values())


def _l_per_kwh(engine: Generator | None) -> float:
    """Litres for a kWh of an engine at most of its rating; of a usual one of 2 kW where none is owned."""
    rated_w = engine.rated_w if engine is not None else 2_000.0
    per = flow(engine) if engine is not None else None
    no_load, slope = per or typical_flow("petrol", rated_w) or (0.0, 0.0)
    return slope + no_load / (AT_SHARE * rated_w / 1000.0)


def _propane_kwh_l() -> float:
    return next(float(row["kwh_per_unit"]) for row in table("fuels") if row["fuel"] == "propane")


def _hour_percent(plan: Plan, load: Load) -> float:
    """What an hour of it takes of all that is stored, %."""
    stored = sum(station.total_cell_wh for station in plan.stations.values())
    return 100.0 * on_watts(load) / stored if stored else 100.0


def _which(plan: Plan, known: HeatFigures, hour_percent: float, *, decides: bool) -> tuple[Which, str]:
    """Which one, in a sentence with its reason; `decides`: the plan lasts without it and not with it."""
    drawn = f"{known.kwh_day:.1f} kWh a day, {100 * known.share:.0f} % of all that is drawn"
    if known.propane_l_day is None:
        return (
            "station",
            f"On the station: it keeps {known.heat_kwh_day:.0f} kWh of heat a day going for {drawn}.",
        )
    gas = f"About {plan.site.units.told_little(known.propane_l_day)} of propane a day make the same heat"
    if decides or known.longer_s >= LONGER_S:
        longer = f"without it it lasts {spoken_hours(known.longer_s)} longer"
        than = "without it the plan lasts" if decides else longer
        return "gas", f"By gas, or leave it off: {than}; it draws {drawn}. {gas}."
    if known.litres_saved_day >= LEAST_L_DAY and known.share > SMALL_SHARE:
        more = plan.site.units.told_volume(known.litres_saved_day)
        if known.propane_l_day < known.litres_saved_day:
            return "gas", f"By gas: the engine takes {more} more a day for it; it draws {drawn}. {gas}."
        return "engine", f"While the engine runs: it takes {more} a day more; it draws {drawn}. {gas}."
    if hour_percent >= HEAVY_PERCENT and known.share >= LARGE_SHARE:
        hour = f"an hour of it takes {hour_percent:.0f} % of all that is stored"
        return "gas", f"By gas, or while something charges: {hour}. It draws {drawn}. {gas}."
    return "station", f"On the station: the outage goes alike with it; it draws {drawn}. {gas}."
