"""Voltage and current of strings of solar modules."""

from typing import Final

from weary_cedar.core.plan.solar import Module
from weary_cedar.core.plan.station_inputs import DcInput
from weary_cedar.core.tables import table

#: A cell in sun is this much warmer than the air, K. Common practice.
CELL_ABOVE_AIR_K: Final = 30.0
#: Short-circuit current counts with this factor. NFPA 70 (2023) 690.8(A), from memory.
BRIGHT: Final = 1.25
#: Temperature coefficients where the plate gives none, % per K. Common practice of crystalline silicon.
VMP_PERCENT_PER_K: Final = -0.45
#: Working voltage falls with heat by this much of what the open circuit falls, volt for volt. Median of
#: crystalline modules of the California Energy Commission's table by a single-diode model.
VMP_OF_VOC: Final = 1.1
#: Hottest air at noon where nothing is said, °C. Common practice.
HOT_AIR_C: Final = 35.0
#: A module on the ground gives about this share of its plate at its best. Common practice (60 to 80 %).
GROUND_SHARE: Final = 0.7


def cold_factor(coldest_c: float, percent_per_k: float | None = None) -> float:
    """How much open-circuit voltage rises in the cold.

    Args:
        coldest_c: lowest expected temperature, °C.
        percent_per_k: plate coefficient, % per K, negative; the table of the code where not given.

    Returns:
        Factor on the plate's voltage at 25 °C, 1 + β(T − 25)/100; at least 1 by the table.

    Raises:
        ValueError: no plate coefficient, and colder than the table's last row (−40 °C).

    Source: NFPA 70 (2023) 690.7 and table 690.7(A), from memory.

    >>> round(cold_factor(-20, -0.28), 3), cold_factor(-12)
    (1.126, 1.16)
    """
    if percent_per_k is not None:
        return 1 + percent_per_k * (coldest_c - 25.0) / 100.0
    if coldest_c >= 25:
        return 1.0
    rows = [(float(row["from_c"]), float(row["factor"])) for row in table("cold_voltage")]
    found = next((factor for from_c, factor in rows if coldest_c >= from_c), None)
    if found is None:
        raise ValueError(f"no row of the table is colder than {rows[-1][0]:g} °C: {COEFFICIENT_WANTED}")
    return found


#: What is missing where the table of the code ends.
COEFFICIENT_WANTED = "the plate's coefficient of open-circuit voltage is needed"


def beyond_the_table(module: Module, coldest_c: float) -> bool:
    """Whether a module's volts in the cold cannot be told: no coefficient, and colder than any row."""
    coldest_row_c = min(float(row["from_c"]) for row in table("cold_voltage"))
    return module.voc_percent_per_k is None and coldest_c < coldest_row_c


def coldest_string_v(module: Module, series: int, coldest_c: float, *, with_tolerance: bool = False) -> float:
    """Open-circuit voltage of a string on the coldest morning.

    Args:
        module: plate values.
        series: modules in a row.
        coldest_c: °C.
        with_tolerance: add the plate's tolerance (practice, shown apart from the code's figure).

    Returns:
        V, n · Voc · cold factor.

    Raises:
        ValueError: its open-circuit volts are not known.

    Source: NFPA 70 (2023) 690.7, from memory.

    >>> plate = Module(watts=400.0, voc_v=40.0, vmp_v=33.0, isc_a=13.0, imp_a=12.0, voc_percent_per_k=-0.3)
    >>> round(coldest_string_v(plate, 3, -40), 1)
    143.4
    """
    if module.voc_v is None:
        raise ValueError("the open-circuit volts of the module should be known")
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

    Raises:
        ValueError: its working volts are not known.

    Source: common practice of the trade.

    >>> plate = Module(watts=400.0, voc_v=40.0, vmp_v=33.0, isc_a=13.0, imp_a=12.0)
    >>> round(hottest_string_v(plate, 2, 35), 1)
    54.1
    """
    return working_string_v(module, series, hottest_air_c + CELL_ABOVE_AIR_K)


def working_string_v(module: Module, series: int, cell_c: float) -> float:
    """Working voltage of a string at a temperature of its cells.

    Args:
        module: plate values.
        series: modules in a row.
        cell_c: temperature of the cells, °C.

    Returns:
        V, n · Vmp · [1 + β_mp(T − 25)]; where the plate gives no β_mp, 1.1 · β_oc · Voc/Vmp.

    Raises:
        ValueError: its working volts are not known.

    Source: common practice of the trade; 1.1 by a single-diode model on open data.

    >>> plate = Module(watts=400.0, voc_v=40.0, vmp_v=33.0, isc_a=13.0, imp_a=12.0)
    >>> working_string_v(plate, 2, 25)
    66.0
    """
    if module.vmp_v is None:
        raise ValueError("the working volts of the module should be known")
    beta = module.vmp_percent_per_k
    if beta is None and module.voc_percent_per_k is not None and module.voc_v is not None:
        beta = VMP_OF_VOC * module.voc_percent_per_k * module.voc_v / module.vmp_v
    elif beta is None:
        beta = VMP_PERCENT_PER_K
    return series * module.vmp_v * (1 + beta * (cell_c - 25.0) / 100.0)


def short_circuit_a(module: Module, parallel: int) -> float:
    """Greatest current of strings in parallel, A: 1.25 · n · Isc.

    Raises:
        ValueError: its short-circuit amps are not known.

    Source: NFPA 70 (2023) 690.8(A), from memory.

    >>> plate = Module(watts=400.0, voc_v=40.0, vmp_v=33.0, isc_a=12.0, imp_a=11.0)
    >>> short_circuit_a(plate, 2)
    30.0
    """
    if module.isc_a is None:
        raise ValueError("the short-circuit amps of the module should be known")
    return BRIGHT * parallel * module.isc_a


def unread(module: Module, entry: DcInput, coldest_c: float | None = None) -> str:
    """What of plates nobody read, so that no string can be judged, in words; empty where all is known.

    Args:
        module: plate values.
        entry: the input.
        coldest_c: coldest morning, °C, where the volts in the cold are asked for.
    """
    plate = {
        "open-circuit volts": module.voc_v, "working volts": module.vmp_v, "short-circuit amps": module.isc_a,
        "working amps": module.imp_a,
    }  # fmt: skip
    missing = [f"{name} of the module" for name, value in plate.items() if value is None]
    limits = {"most volts": entry.high_v, "most amps": entry.most_a}
    missing += [f"{name} of the input" for name, value in limits.items() if value is None]
    if coldest_c is not None and beyond_the_table(module, coldest_c):
        missing.append(
            "coefficient of the module's open-circuit volts, for the table of the code ends at −40 °C"
        )
    return ", ".join(missing)
