"""How sure a verdict is: the same outage run again with all doubts against it, and with all for it."""

from collections.abc import Mapping
from typing import Final

from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.outage.result import InDoubt
from weary_cedar.core.plan import (
    Behaviour,
    Cycling,
    Job,
    Load,
    Measured,
    Plan,
    Refrigerating,
    Steady,
    Thermostatic,
)
from weary_cedar.core.plan.outage import Sky

#: The next worse kind of day, and the next better one. Common practice: a forecast is off by one kind.
WORSE: Final[Mapping[Sky, Sky]] = {
    "clear": "haze", "haze": "broken_cloud", "smoke": "overcast", "broken_cloud": "overcast",
    "overcast": "rain", "rain": "rain", "snow_on_panels": "snow_on_panels",
}  # fmt: skip
BETTER: Final[Mapping[Sky, Sky]] = {
    "clear": "clear", "haze": "clear", "smoke": "haze", "broken_cloud": "haze", "overcast": "broken_cloud",
    "rain": "overcast", "snow_on_panels": "rain",
}  # fmt: skip
#: A run of more moments than this is not run twice more.
MOST_MOMENTS: Final = 40_000


def judged(plan: Plan) -> RunResult:
    """Run a plan's outage, and say how sure the verdict is.

    Args:
        plan: a complete plan.

    Returns:
        The result of `run_outage`, with `least`, `most` and `how_sure` in its verdict: two more runs in
        which all loads draw more (or less) by the doubt of their sum and of the station's figures, and
        every day is one kind worse (or better).

    Raises:
        RunTooLong: more changes than are counted through.

    Source: doubts by the origin of figures, common practice; independent doubts add as squares.
    """
    result = run_outage(plan)
    verdict = result.verdict
    if verdict.status == "cannot_judge":
        return result
    if result.intervals > MOST_MOMENTS:
        words = "how sure that is was not worked out: the outage changes too often to run it again"
        return _with(result, how_sure=words)
    doubt = need_list(plan).how_long.doubt
    result = _with(result, uncertainty=doubt)
    try:
        least, most = (_outlook(plan, doubt, worse=worse) for worse in (True, False))
    except RunTooLong:
        words = "how sure that is cannot be worked out: with other loads it is too much to run"
        return _with(result, how_sure=words)
    words = _in_words(plan, result, least, most)
    both = least.until is not None and most.until is not None and verdict.until is not None
    unsure = {"unsure_from": least.until, "unsure_to": most.until} if both else {}
    return _with(result, least=least, most=most, how_sure=words, **unsure)


def _with(result: RunResult, **update: object) -> RunResult:
    return result.model_copy(update={"verdict": result.verdict.model_copy(update=update)})


def _outlook(plan: Plan, doubt: float, *, worse: bool) -> InDoubt:
    """The outage with all that is doubtful on one side."""
    factor = 1 + doubt if worse else 1 - doubt
    loads = {key: drawing(load, factor) for key, load in plan.loads.items()}
    words = f"{100 * doubt:.0f} % {'more' if worse else 'less'} drawn"
    weather = plan.outage.weather
    modelled = any(array.station_id and array.seen is None for array in plan.arrays.values())
    if modelled and weather.hourly_sun is None:
        kinds = WORSE if worse else BETTER
        sky = tuple(kinds[kind] for kind in plan.sky)
        if sky != plan.sky:
            weather = weather.model_copy(update={"sky": sky})
            words += f" and the sky one kind {'worse' if worse else 'better'}"
    outage = plan.outage.model_copy(update={"weather": weather})
    run = run_outage(plan.model_copy(update={"loads": loads, "outage": outage}))
    series = run.series.stored_wh
    left = 100.0 * series[-1] / run.capacity_wh if series and run.capacity_wh else None
    verdict = run.verdict
    return InDoubt(
        words=words, status=verdict.status, until=verdict.until, until_s=verdict.until_s, left_percent=left
    )


def drawing(load: Load, factor: float) -> Load:
    """A load that needs more or less energy, at the same peaks where it has peaks.

    Args:
        load: any load.
        factor: of its energy.

    Returns:
        The load with another duty, another length of its job, other losses of what it keeps warm or cold;
        what draws steadily, or was measured, draws other watts.
    """
    return load.model_copy(update={"behaviour": _drawing(load.behaviour, factor)})


def _drawing(spec: Behaviour, factor: float) -> Behaviour:
    if isinstance(spec, Steady):
        return spec.model_copy(update={"watts": spec.watts * factor})
    if isinstance(spec, Cycling):
        return spec.model_copy(update={"duty": min(1.0, spec.duty * factor)})
    if isinstance(spec, Job):
        steps = tuple(step.model_copy(update={"minutes": step.minutes * factor}) for step in spec.steps)
        return spec.model_copy(update={"steps": steps})
    if isinstance(spec, Thermostatic):
        return spec.model_copy(update={"loss_w_per_k": spec.loss_w_per_k * factor})
    if isinstance(spec, Measured):
        return spec.model_copy(update={"watts": tuple(watts * factor for watts in spec.watts)})
    assert isinstance(spec, Refrigerating)
    boxes = {
        key: box.model_copy(update={"loss_w_per_k": box.loss_w_per_k * factor})
        for key, box in spec.compartments.items()
    }
    return spec.model_copy(update={"compartments": boxes})


def _in_words(plan: Plan, result: RunResult, least: InDoubt, most: InDoubt) -> str:
    told = plan.site.units.told_moment
    left = f", {least.left_percent:.0f} % left" if least.left_percent is not None else ""
    if result.verdict.status == "lasts":
        if least.status == "lasts":
            return f"with {least.words} it lasts, too{left}"
        until = f" only until {told(least.until)}" if least.until else " no longer"
        return f"not sure, with {least.words} it lasts{until}"
    if most.status == "lasts":
        return f"not sure, with {most.words} it would last"
    if least.until is None or most.until is None or least.until == most.until:
        return "no doubt of its figures changes that"
    return f"from {told(least.until)} with {least.words} to {told(most.until)} with {most.words}"
