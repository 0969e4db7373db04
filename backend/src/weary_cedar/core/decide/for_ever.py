"""Does it hold for ever? Under each kind of day, the same day over and over, whether the cycle closes."""

from collections.abc import Sequence
from typing import Final, get_args

from pydantic import BaseModel, ConfigDict

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.verdict import spoken_hours
from weary_cedar.core.plan import Plan
from weary_cedar.core.plan.outage import Sky
from weary_cedar.core.supply.sun import DAY_FACTORS

DAY_S: Final = 86_400.0
#: So many days alike are run; over the last of them the charge may fall by no more than this a day, %.
DAYS: Final = 12
LAST_DAYS: Final = 4
FALLS_PERCENT: Final = 0.3
#: Less fuel than this is none, L a day.
LEAST_L: Final = 0.01


class EachDay(BaseModel):
    """One kind of day over and over: whether it holds, with how much fuel, or how long it goes on."""

    model_config = ConfigDict(frozen=True)

    sky: Sky | None
    name: str
    holds: bool
    #: Where it holds: fuel that has to be brought, L a day. Where not: when it fails; nothing where it only
    #: falls slowly.
    litres_day: float = 0.0
    fails_s: float | None = None
    #: By how much the charge falls a day, % of all.
    falls_percent: float = 0.0
    words: str


class ForEver(BaseModel):
    """The answer in a sentence, and each kind of day."""

    model_config = ConfigDict(frozen=True)

    sentence: str
    days: tuple[EachDay, ...] = ()
    why_not: str = ""


def for_ever(plan: Plan, stops: Sequence[str] = ()) -> ForEver:
    """Whether a plan goes on without end, and down to which weather.

    Args:
        plan: a complete plan.
        stops: what forbids to energise it, in words; nothing else is told then.

    Returns:
        For each kind of day, the same one for twelve days, with fuel that is brought: whether nothing that
        must run is lost and the charge of all cells at the same hour no longer falls over the last days;
        one where the sun matters not.

    Source: exact runs; that a cycle which closed goes on follows from the same day and the same state.
    """
    if stops:
        why = f"this must not be energised: {stops[0]}"
        return ForEver(sentence=f"Not worked out: {why}.", why_not=why)
    first = run_outage(plan)
    if first.verdict.status == "cannot_judge":
        why = "; ".join(first.verdict.missing)
        return ForEver(sentence=f"Not judged yet: {why}.", why_not=why)
    sunny = any(array.station_id is not None for array in plan.arrays.values())
    skies: list[Sky | None] = list(get_args(Sky)) if sunny else [None]
    skies.sort(key=lambda sky: -DAY_FACTORS[sky] if sky else 0.0)
    found = tuple(_each(plan, sky) for sky in skies)
    return ForEver(sentence=_sentence(plan, found) + _fuel_words(plan, found), days=found)


def _fuel_words(plan: Plan, days: tuple[EachDay, ...]) -> str:
    """How long the fuel in the house is enough on the worst day that holds."""
    burning = [day for day in days if day.holds and day.litres_day > LEAST_L]
    held = [engine.on_hand_l for engine in plan.generators.values()]
    if not burning or not held:
        return ""
    if None in held:
        return " How much fuel is in the house is not said."
    enough = sum(litres or 0.0 for litres in held) / burning[-1].litres_day
    return f" The fuel in the house is enough for {enough:.0f} days of that."


def _each(plan: Plan, sky: Sky | None) -> EachDay:
    run = run_outage(_alike(plan, sky))
    name = "every day" if sky is None else sky.replace("_", " ")
    litres = sum(share.burned_l or 0.0 for share in run.sources.values()) / (run.length_s / DAY_S)
    fails = run.verdict.until_s
    falls = _falls(run)
    holds = run.verdict.status == "lasts" and falls <= FALLS_PERCENT
    volume = plan.site.units.told_volume
    if holds:
        fuel = f"goes on while {volume(litres)} of fuel a day is brought"
        words = fuel if litres > LEAST_L else "goes on for ever"
    elif fails is not None and run.verdict.status != "lasts":
        words = f"ends after {spoken_hours(fails)}" if fails >= 1.0 else "fails from the beginning"
    elif run.verdict.status != "lasts":
        words = "something that must run is never reached"
    else:
        words = f"lasts {DAYS} days and loses {falls:.1f} % of all charge a day"
    return EachDay(
        sky=sky, name=name, holds=holds, litres_day=litres if holds else 0.0,
        fails_s=None if holds or run.verdict.status == "lasts" else fails,
        falls_percent=max(0.0, falls), words=words,
    )  # fmt: skip


def _alike(plan: Plan, sky: Sky | None) -> Plan:
    """The plan with the same day over and over, nothing that goes wrong, and fuel that is brought."""
    weather = plan.outage.weather.model_copy(update={"hourly_sun": None, "sky": (sky,) if sky else ()})
    outage = plan.outage.model_copy(
        update={"length_s": DAYS * DAY_S, "weather": weather, "incidents": {}, "grid": {}}
    )
    engines = {key: engine.model_copy(update={"on_hand_l": None}) for key, engine in plan.generators.items()}
    return plan.model_copy(update={"outage": outage, "generators": engines})


def _falls(run: RunResult) -> float:
    """By how much the charge at the same hour falls a day, over the last days, % of all."""
    if not run.capacity_wh:
        return 0.0
    ends = [_charge(run, run.length_s - day * DAY_S) for day in range(LAST_DAYS + 1)]
    return (ends[-1] - ends[0]) / LAST_DAYS


def _charge(run: RunResult, t: float) -> float:
    """Charge of all cells at a moment, %; straight between change points."""
    series = run.series
    later = next((k for k, at in enumerate(series.t_s) if at > t), len(series.t_s))
    before = max(0, later - 1)
    if later >= len(series.t_s):
        return series.charge_percent[before]
    share = (t - series.t_s[before]) / (series.t_s[later] - series.t_s[before])
    low, high = series.charge_percent[before], series.charge_percent[later]
    return low + share * (high - low)


def _sentence(plan: Plan, days: tuple[EachDay, ...]) -> str:
    """Down to which weather it holds, and what happens in the next worse."""
    if days[0].sky is None:
        return f"With the same day over and over it {days[0].words}."
    held = [day for day in days if day.holds]
    if not held:
        return f"It does not hold for ever under any sky: clear days over and over, it {days[0].words}."
    worst = held[-1]
    fuel = plan.site.units.told_volume(worst.litres_day)
    brought = worst.litres_day > LEAST_L
    on = "goes on" if brought else "goes on for ever"
    while_brought = f" while fuel is brought, {fuel} a day at the worst" if brought else ""
    if len(held) == len(days):
        return f"It {on} under any sky{while_brought}."
    failing = next(day for day in days if not day.holds)
    ordered = all(day.holds for day in days[: len(held)])
    told = f"It {on} as long as no day is worse than {worst.name}{while_brought}"
    if not ordered:
        told = f"It {on} under {', '.join(day.name for day in held)}{while_brought}"
    return f"{told}; {failing.name} over and over, it {failing.words}."
