"""What the arrays on one DC input offer in the course of an outage, and what the input takes.

Lost: soiling, mismatch, heat, shade; light by the kind of day, or as a weather file has it. Refused:
what is over the input's watts and amps is clipped; under its lowest voltage nothing is taken. Several
arrays on an input are in parallel. Units W and s after the start. Sun and plane by pvlib (see `supply.sun`).
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from weary_cedar.core.electrical.pv_string import working_string_v
from weary_cedar.core.plan import Act, DcInput, Plan, Site, SolarArray
from weary_cedar.core.supply.sun import DAY_FACTORS, SunSample, array_samples, measured_samples

UTC = ZoneInfo("UTC")
#: Working volts of a string whose plate was not read: it is counted as within what its input takes.
FITS_V = 1e9


@dataclass(frozen=True)
class SunPoint:
    """From a moment on: what the arrays give, and what their input takes of it, W."""

    t_s: float
    offered_w: float
    taken_w: float


def sun_points(
    plan: Plan, arrays: Mapping[str, SolarArray], entry: DcInput, air_c: Callable[[float], float]
) -> list[SunPoint]:
    """Change points of the arrays of one input over the whole outage.

    Args:
        plan: site, start, length and the kinds of days.
        arrays: of this input, by id.
        entry: the input.
        air_c: outdoor temperature by seconds from the start, °C.

    Returns:
        Points in order, the first at 0; each holds until the next (samples of 10 min).

    Source: `supply.sun`; clipping as in `decide.string_layout`.
    """
    courses = [_course(plan, array, air_c) for _, array in arrays.items()]
    off = [_off_spans(plan, key, array) for key, array in arrays.items()]
    least_v = [entry.least_v if array.seen is None else 0.0 for _, array in arrays.items()]
    edges = [edge for spans in off for span in spans for edge in span]
    times = sorted({0.0, *[t for course in courses for t, _, _ in course], *edges})
    points: list[SunPoint] = []
    at = [0] * len(courses)
    for t in times:
        offered, volts = 0.0, math.inf
        most_a = math.inf if entry.most_a is None else entry.most_a
        for index, course in enumerate(courses):
            while at[index] + 1 < len(course) and course[at[index] + 1][0] <= t:
                at[index] += 1
            _, watts, string_v = course[at[index]] if course else (0.0, 0.0, 0.0)
            if any(begins <= t < ends for begins, ends in off[index]):
                continue
            offered += watts
            if string_v >= least_v[index]:
                volts = min(volts, string_v)
        taken = (
            0.0 if volts == math.inf else min(offered, entry.most_w, most_a * volts if volts else math.inf)
        )
        if not points or (points[-1].offered_w, points[-1].taken_w) != (offered, taken):
            points.append(SunPoint(t, offered, taken))
    return points


def _off_spans(plan: Plan, key: str, array: SolarArray) -> list[tuple[float, float]]:
    """When acts keep an array covered or turned away, or its input unplugged, s."""
    of_input = (array.station_id, array.pack_id, array.input_id)

    def of_array(act: Act) -> bool:
        return act.room == "arrays" and act.part_id == key

    def of_its_input(act: Act) -> bool:
        return act.room == "stations" and (act.part_id, act.pack_id, act.input_id) == of_input

    outage = plan.outage
    return [*outage.off_spans(of_array), *outage.off_spans(of_its_input)]


def _course(
    plan: Plan, array: SolarArray, air_c: Callable[[float], float]
) -> list[tuple[float, float, float]]:
    """(s from the start, W, working volts of its strings) of one array."""
    if array.seen is not None:
        seen = list(zip(array.seen.t_s, array.seen.watts, strict=True))
        return [(0.0, 0.0, 0.0), *[(t, watts, 0.0) for t, watts in seen]]
    plate_w = array.series * array.parallel * array.module.watts
    found: list[tuple[float, float, float]] = [(0.0, 0.0, 0.0)]
    for t, length, share, cell_c in _shares(plan.site, plan, array, air_c):
        if t + length > 0 and t < plan.outage.length_s:
            known = array.module.vmp_v is not None
            volts = working_string_v(array.module, array.series, cell_c) if known else FITS_V
            point = (max(0.0, t), plate_w * share, volts)
            if found[-1][0] == point[0]:
                found[-1] = point
            elif point[1] or found[-1][1]:
                found.append(point)
    return found


def _shares(
    site: Site, plan: Plan, array: SolarArray, air_c: Callable[[float], float]
) -> Sequence[tuple[float, float, float, float]]:
    """(s from the start, length, share of plate, cell °C) of every sample of the outage."""
    zone = ZoneInfo(site.time_zone)
    start = plan.outage.start_local.replace(tzinfo=zone).astimezone(UTC)
    first = plan.outage.start_local.date()
    if plan.outage.weather.hourly_sun is not None:
        measured = measured_samples(site, array, start, plan.outage.weather.hourly_sun, air_c)
        ends = [*measured, SunSample(3600.0 * len(measured), 3600.0, 0.0, 0.0, 0.0)]
        return [(item.t_s, item.length_s, item.share, item.cell_c) for item in ends]
    days = int(plan.outage.length_s // 86_400) + 2
    sky = plan.sky
    found = []
    for number in range(days):
        day = first + timedelta(days=number)
        midnight = datetime.combine(day, time(), tzinfo=zone).astimezone(UTC)
        shift = (midnight - start).total_seconds()
        factor = DAY_FACTORS[sky[min(number, len(sky) - 1)]]
        for item in array_samples(site, array, day, _shifted(air_c, shift), factor, (first, days)):
            found.append((item.t_s + shift, item.length_s, item.share, item.cell_c))
    return found


def _shifted(air_c: Callable[[float], float], by_s: float) -> Callable[[float], float]:
    """Air by seconds after midnight, from air by seconds after the start."""
    return lambda t: air_c(max(0.0, t + by_s))
