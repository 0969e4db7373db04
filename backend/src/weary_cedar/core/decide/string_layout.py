"""Which way to wire modules to an input: what fits its window, and what harvests most."""

from collections.abc import Sequence
from dataclasses import dataclass

from weary_cedar.core.electrical.pv_string import (
    GROUND_SHARE,
    HOT_AIR_C,
    coldest_string_v,
    hottest_string_v,
    short_circuit_a,
    unread,
    working_string_v,
)
from weary_cedar.core.plan import DcInput, Module
from weary_cedar.core.supply.sun import SunSample


@dataclass(frozen=True)
class Layout:
    """One way to wire modules to an input; `fits` when nothing is in its way."""

    series: int
    parallel: int
    coldest_v: float
    hottest_v: float
    working_a: float
    array_w: float
    taken_w: float
    day_wh: float
    clipped_wh: float
    fits: bool
    why_not: str


def layouts(
    module: Module,
    count: int,
    entry: DcInput,
    coldest_c: float,
    sun: Sequence[SunSample],
    hottest_c: float = HOT_AIR_C,
) -> list[Layout]:
    """Every series × parallel layout of up to so many modules on one input, the best first.

    Args:
        module: plate values.
        count: modules at hand.
        entry: the input of station or pack.
        coldest_c: coldest morning, °C.
        sun: a clear day of the array.
        hottest_c: hottest air at noon, °C.

    Returns:
        Layouts that fit before those that do not, then by what the input takes in the course of the
        day, then fewer modules, then fewer in parallel (no combiner). `clipped_wh` is what the array
        would give and the input does not take; `taken_w` in good sun (array × 0.7).

    Source: window by NFPA 70 (2023) 690.7 from memory; clipping and 0.7 are common practice.
    """
    if unread(module, entry, coldest_c):
        return []
    found = [
        _layout(module, (series, parallel), entry, (coldest_c, hottest_c), sun)
        for series in range(1, count + 1)
        for parallel in range(1, count // series + 1)
    ]
    return sorted(found, key=lambda x: (not x.fits, -round(x.day_wh, 3), x.series * x.parallel, x.parallel))


def _layout(
    module: Module,
    way: tuple[int, int],
    entry: DcInput,
    air_c: tuple[float, float],
    sun: Sequence[SunSample],
) -> Layout:
    series, parallel = way
    coldest_v = coldest_string_v(module, series, air_c[0], with_tolerance=True)
    hottest_v = hottest_string_v(module, series, air_c[1])
    why_not = _in_the_way(module, parallel, entry, coldest_v, hottest_v)
    array_w = series * parallel * module.watts * GROUND_SHARE
    working_a = parallel * (module.imp_a or 0.0)
    most_a = min(working_a * GROUND_SHARE, entry.most_a or 0.0)
    taken_w = min(array_w, entry.most_w, most_a * series * (module.vmp_v or 0.0))
    day_wh, offered_wh = harvest(module, series, parallel, entry, sun)
    fits = not why_not
    return Layout(
        series=series,
        parallel=parallel,
        coldest_v=coldest_v,
        hottest_v=hottest_v,
        working_a=working_a,
        array_w=array_w,
        taken_w=taken_w if fits else 0.0,
        day_wh=day_wh if fits else 0.0,
        clipped_wh=offered_wh - day_wh if fits else 0.0,
        fits=fits,
        why_not=why_not,
    )


def _in_the_way(module: Module, parallel: int, entry: DcInput, coldest_v: float, hottest_v: float) -> str:
    limit_a = entry.short_circuit_a
    if entry.high_v is not None and coldest_v > entry.high_v:
        return f"{coldest_v:.0f} V in the cold, over the {entry.high_v:g} V that the input takes"
    if limit_a is not None and short_circuit_a(module, parallel) > limit_a:
        return f"{short_circuit_a(module, parallel):.0f} A in short circuit, over {limit_a:g} A"
    if hottest_v < entry.least_v:
        return f"{hottest_v:.0f} V in the heat, under the {entry.least_v:g} V that it starts at"
    return ""


def harvest(
    module: Module, series: int, parallel: int, entry: DcInput, sun: Sequence[SunSample]
) -> tuple[float, float]:
    """What an input takes of an array in the course of a day, and what the array offers.

    Args:
        module: plate values.
        series: modules in a row.
        parallel: rows side by side.
        entry: the input.
        sun: samples of the day.

    Returns:
        (taken, offered) in Wh: no more than the input's watts, and its amps at the working voltage;
        nothing under its lowest voltage.

    Source: common practice.
    """
    taken = offered = 0.0
    for sample in sun:
        volts = working_string_v(module, series, sample.cell_c)
        watts = series * parallel * module.watts * sample.share
        offered += watts * sample.length_s / 3600.0
        if volts >= entry.least_v:
            most_w = entry.most_a * volts if entry.most_a is not None else entry.most_w
            taken += min(watts, entry.most_w, most_w) * sample.length_s / 3600.0
    return taken, offered
