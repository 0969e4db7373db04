"""Voltage and current of strings of solar modules."""

from dataclasses import dataclass

from weary_cedar.core.plan.solar import Module
from weary_cedar.core.plan.station_inputs import DcInput
from weary_cedar.core.tables import table

#: A cell in sun is this much warmer than the air, K. Common practice.
CELL_ABOVE_AIR_K = 30.0
#: Short-circuit current counts with this factor. NFPA 70 (2023) 690.8(A), from memory.
BRIGHT = 1.25
#: Temperature coefficients where the plate gives none, % per K. Common practice of crystalline silicon.
VMP_PERCENT_PER_K = -0.35
#: A module on the ground gives about this share of its plate at its best. Common practice (60 to 80 %).
GROUND_SHARE = 0.7


def cold_factor(coldest_c: float, percent_per_k: float | None = None) -> float:
    """How much open-circuit voltage rises in the cold.

    Args:
        coldest_c: lowest expected temperature, °C.
        percent_per_k: plate coefficient, % per K, negative; the table of the code where not given.

    Returns:
        Factor on the plate's voltage at 25 °C, 1 + β(T − 25)/100; at least 1 by the table.

    Source: NFPA 70 (2023) 690.7 and table 690.7(A), from memory.

    >>> round(cold_factor(-20, -0.28), 3), cold_factor(-12)
    (1.126, 1.16)
    """
    if percent_per_k is not None:
        return 1 + percent_per_k * (coldest_c - 25.0) / 100.0
    if coldest_c >= 25:
        return 1.0
    rows = [(float(row["from_c"]), float(row["factor"])) for row in table("cold_voltage")]
    return next((factor for from_c, factor in rows if coldest_c >= from_c), rows[-1][1])


def coldest_string_v(module: Module, series: int, coldest_c: float, *, with_tolerance: bool = False) -> float:
    """Open-circuit voltage of a string on the coldest morning.

    Args:
        module: plate values.
        series: modules in a row.
        coldest_c: °C.
        with_tolerance: add the plate's tolerance (practice, shown apart from the code's figure).

    Returns:
        V, n · Voc · cold factor.

    Source: NFPA 70 (2023) 690.7, from memory.

    >>> plate = Module(watts=400.0, voc_v=41.53, vmp_v=34.0, isc_a=13.0, imp_a=12.0, voc_percent_per_k=-0.28)
    >>> round(coldest_string_v(plate, 3, -40), 1)
    147.3
    """
    spread = 1 + module.tolerance_percent / 100 if with_tolerance else 1.0
    return series * module.voc_v * cold_factor(coldest_c, module.voc_percent_per_k) * spread


def hottest_string_v(module: Module, series: int, hottest_air_c: float) -> float:
    """Working voltage of a string on the hottest noon.

    Args:
        module: plate values.
        series: modules in a row.
        hottest_air_c: °C.

    Returns:
        V, n · Vmp · [1 + β_mp(T_air + 30 − 25)/100].

    Source: common practice of the trade.

    >>> plate = Module(watts=400.0, voc_v=41.5, vmp_v=34.0, isc_a=13.0, imp_a=12.0)
    >>> round(hottest_string_v(plate, 2, 35), 1)
    58.5
    """
    beta = VMP_PERCENT_PER_K if module.vmp_percent_per_k is None else module.vmp_percent_per_k
    return series * module.vmp_v * (1 + beta * (hottest_air_c + CELL_ABOVE_AIR_K - 25.0) / 100.0)


def short_circuit_a(module: Module, parallel: int) -> float:
    """Greatest current of strings in parallel, A: 1.25 · n · Isc.

    Source: NFPA 70 (2023) 690.8(A), from memory.

    >>> plate = Module(watts=400.0, voc_v=41.5, vmp_v=34.0, isc_a=12.0, imp_a=11.0)
    >>> short_circuit_a(plate, 2)
    30.0
    """
    return BRIGHT * parallel * module.isc_a


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
    fits: bool
    why_not: str


def layouts(module: Module, count: int, entry: DcInput, coldest_c: float, hottest_c: float) -> list[Layout]:
    """Every series × parallel layout of up to so many modules on one input, the best first.

    Args:
        module: plate values.
        count: modules at hand.
        entry: the station's input.
        coldest_c: coldest morning, °C.
        hottest_c: hottest air at noon, °C.

    Returns:
        Layouts that fit before those that do not, then by the power that the input takes in good
        sun (array × 0.7, no more than the input's amps at working voltage and its watts), then
        fewer modules, then fewer in parallel (no combiner).

    Source: window by NFPA 70 (2023) 690.7 from memory; clipping and 0.7 are common practice.
    """
    found = [
        _layout(module, series, parallel, entry, coldest_c, hottest_c)
        for series in range(1, count + 1)
        for parallel in range(1, count // series + 1)
    ]
    return sorted(found, key=lambda x: (not x.fits, -x.taken_w, x.series * x.parallel, x.parallel))


def _layout(
    module: Module, series: int, parallel: int, entry: DcInput, coldest_c: float, hottest_c: float
) -> Layout:
    coldest_v = coldest_string_v(module, series, coldest_c, with_tolerance=True)
    hottest_v = hottest_string_v(module, series, hottest_c)
    working_a = parallel * module.imp_a
    array_w = series * parallel * module.watts * GROUND_SHARE
    taken_w = min(array_w, entry.most_w, min(working_a * GROUND_SHARE, entry.most_a) * series * module.vmp_v)
    why_not = ""
    limit_a = entry.short_circuit_a
    if coldest_v > entry.high_v:
        why_not = f"{coldest_v:.0f} V in the cold, over the {entry.high_v:g} V that the input takes"
    elif limit_a is not None and short_circuit_a(module, parallel) > limit_a:
        why_not = f"{short_circuit_a(module, parallel):.0f} A in short circuit, over {limit_a:g} A"
    elif hottest_v < entry.low_v:
        why_not = f"{hottest_v:.0f} V in the heat, under the {entry.low_v:g} V that it starts at"
    fits = not why_not
    return Layout(
        series, parallel, coldest_v, hottest_v, working_a, array_w, taken_w if fits else 0.0, fits, why_not
    )
