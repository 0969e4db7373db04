"""A plug-in meter that writes series for made-up appliances, with the truth beside them."""

import csv
import io
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from weary_cedar.core.errors import InvalidInput, Problem

Array = NDArray[np.float64]
MeterUnit = Literal["W", "kW", "kWh"]


@dataclass(frozen=True)
class Appliance:
    """A made-up appliance: watts, duty, period, start, defrosts, steps (W, s) before and after its run."""

    on_w: float
    off_w: float
    duty: float
    period_s: float
    start_w: float | None = None
    defrost_w: float = 0.0
    defrost_every: int = 0
    before: tuple[tuple[float, float], ...] = ()
    after: tuple[tuple[float, float], ...] = ()


#: Invented; resembling nobody's.
APPLIANCES = {
    "refrigerator": Appliance(128.0, 2.0, 0.41, 2_700.0, 840.0, 430.0, 14),
    "freezer": Appliance(96.0, 1.0, 0.52, 3_600.0, 700.0),
    "sump pump": Appliance(720.0, 0.5, 0.06, 1_800.0, 2_600.0),
    "dehumidifier": Appliance(545.0, 4.0, 0.62, 1_500.0, 1_700.0),
    "gas furnace": Appliance(
        610.0,
        6.0,
        0.34,
        1_200.0,
        1_650.0,
        before=((72.0, 30.0), (395.0, 30.0)),
        after=((540.0, 60.0), (70.0, 30.0)),
    ),
    "router": Appliance(17.0, 17.0, 1.0, 600.0),
}


@dataclass(frozen=True)
class Truth:
    """What an analysis of the series should find; duty is the share of time above half of on_w."""

    wh_day: float
    cycles: bool
    on_w: float
    duty: float
    period_s: float
    start_w: float | None
    defrosts: bool


@dataclass(frozen=True)
class MeterSeries:
    """Times in s, watts held from each time on, and the truth."""

    name: str
    t_s: Array
    watts: Array
    truth: Truth


def meter_series(name: str, days: float = 2.0, step_s: float = 10.0, seed: int = 1) -> MeterSeries:
    """Simulate a series.

    Args:
        name: one of `APPLIANCES`.
        days: length, d, above 0 up to 14.
        step_s: time between samples, s, from 1 to 600.
        seed: of the noise; the same seed gives the same series.

    Returns:
        The series and its truth.

    Raises:
        InvalidInput: an unknown appliance, or a length or step outside its range.
    """
    if name not in APPLIANCES:
        problem = Problem("/appliance", name, f"should be one of {', '.join(APPLIANCES)}")
        raise InvalidInput(str(problem), (problem,))
    for field, value, low, high in (("/days", days, 0.02, 14.0), ("/step_s", step_s, 1.0, 600.0)):
        if not low <= value <= high:
            problem = Problem(field, f"{value:g}", f"should be from {low:g} to {high:g}")
            raise InvalidInput(str(problem), (problem,))
    what, noise = APPLIANCES[name], np.random.default_rng(seed)
    t = np.arange(0.0, days * 86_400, step_s)
    watts = np.full(len(t), what.off_w)
    on = np.ones(len(t), bool) if what.duty >= 1 else np.zeros(len(t), bool)
    begins, number, starts = 0.3 * what.period_s, 0, []
    while what.duty < 1 and begins < t[-1]:
        length = what.period_s * noise.normal(1.0, 0.04)
        ends = begins + what.duty * length
        first, last = np.searchsorted(t, [begins, ends])
        number += 1
        defrost = what.defrost_every and number % what.defrost_every == 0
        watts[first:last] = what.defrost_w if defrost else what.on_w
        if not defrost:
            _overlay(t, watts, first, last, what)
        on[first:last] = True
        if not defrost:
            starts.append(int(np.searchsorted(t, begins + sum(step_s for _, step_s in what.before))))
        begins += length
    watts[on & (what.duty >= 1)] = what.on_w
    watts *= noise.normal(1.0, 0.006, len(t))
    if what.start_w is not None and step_s <= 2:
        watts[starts] = what.start_w * noise.normal(1.0, 0.01, len(starts))
    truth = Truth(
        wh_day=float(watts.mean()) * 24,
        cycles=what.duty < 1,
        on_w=what.on_w,
        duty=float((watts > what.on_w / 2).mean()),
        period_s=what.period_s,
        start_w=what.start_w,
        defrosts=bool(what.defrost_every) and number >= what.defrost_every,
    )
    return MeterSeries(name, t, watts, truth)


def _overlay(t: Array, watts: Array, first: int, last: int, what: Appliance) -> None:
    """Write the steps of a call over the beginning and the end of its stretch."""
    if first >= last:
        return
    at = t[first]
    for step_w, step_s in what.before:
        a, b = np.searchsorted(t, [at, at + step_s])
        watts[a : min(b, last)] = step_w
        at += step_s
    at = t[last - 1] - sum(step_s for _, step_s in what.after)
    for step_w, step_s in what.after:
        a, b = np.searchsorted(t, [at, at + step_s], side="right")
        watts[max(a, first) : min(b, last)] = step_w
        at += step_s


def meter_csv(series: MeterSeries, start: datetime, *, european: bool = False, unit: MeterUnit = "W") -> str:
    """The series as a meter might write it.

    Args:
        series: to write.
        start: moment of the first sample.
        european: semicolons, decimal commas and day first instead of commas, points and ISO times.
        unit: of what it writes: power, or a counter of energy that only rises.
    """
    out = io.StringIO()
    writer = csv.writer(out, delimiter=";" if european else ",", lineterminator="\n")
    counts = unit == "kWh"
    german, plain = ("Energie", "energy") if counts else ("Leistung", "power")
    writer.writerow(
        ["Datum Uhrzeit", f"{german} ({unit})"] if european else ["timestamp", f"{plain}_{unit.lower()}"]
    )
    shape = "%d.%m.%Y %H:%M:%S" if european else "%Y-%m-%dT%H:%M:%S"
    digits, factor = {"W": (1, 1.0), "kW": (4, 1e-3), "kWh": (6, 1e-3)}[unit]
    shown = (
        np.append(0.0, np.cumsum(series.watts[:-1] * np.diff(series.t_s))) / 3600 if counts else series.watts
    )
    for t, value in zip(series.t_s.tolist(), (shown * factor).tolist(), strict=True):
        figure = f"{value:.{digits}f}"
        moment = (start + timedelta(seconds=t)).strftime(shape)
        writer.writerow([moment, figure.replace(".", ",") if european else figure])
    return out.getvalue()
