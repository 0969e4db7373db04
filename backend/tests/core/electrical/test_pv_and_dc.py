"""Strings, battery side, ampacity: worked cases."""

import pytest

from weary_cedar.core.electrical.ampacity import (
    cord_ampacity_a,
    largest_breaker_a,
    receptacle,
    wire_ampacity_a,
)
from weary_cedar.core.electrical.dc_side import cable_and_fuse_a, dc_amps, may_differ_v, precharge_resistor
from weary_cedar.core.electrical.pv_string import (
    cold_factor,
    coldest_string_v,
    hottest_string_v,
    short_circuit_a,
    working_string_v,
)
from weary_cedar.core.plan import Module
from weary_cedar.core.tables import table


def module(voc_v: float = 41.53, **more: float) -> Module:
    figures = {"watts": 400.0, "vmp_v": 34.0, "isc_a": 12.0, "imp_a": 11.5, "voc_percent_per_k": -0.28}
    return Module.model_validate({"voc_v": voc_v, **figures, **more})


@pytest.mark.parametrize(
    ("series", "coldest_c", "with_tolerance", "volts"),
    [
        (3, 25, True, 128.3),  # plate ± 3 %; practice
        (4, 25, True, 171.1),
        (3, -20, True, 144.5),  # handbook arithmetic of NEC 690.7, from memory; the tolerance is practice
        (3, -40, True, 151.7),
        (3, -40, False, 147.3),
    ],
)
def test_open_circuit_in_the_cold(series: int, coldest_c: float, with_tolerance: bool, volts: float) -> None:
    found = coldest_string_v(module(), series, coldest_c, with_tolerance=with_tolerance)
    assert found == pytest.approx(volts, abs=0.06)


@pytest.mark.parametrize(
    ("coldest_c", "factor"),
    [(30, 1.0), (20, 1.02), (0, 1.10), (-1, 1.12), (-20, 1.18), (-40, 1.25)],
)
def test_table_of_the_code_where_the_plate_gives_nothing(coldest_c: float, factor: float) -> None:
    """NEC table 690.7(A), from memory; between rows the colder row counts."""
    assert cold_factor(coldest_c) == factor


def test_the_table_of_the_code_ends() -> None:
    with pytest.raises(ValueError, match="no row of the table is colder than -40 °C"):
        cold_factor(-40.1)
    assert cold_factor(-55, -0.25) == pytest.approx(1.2)


def test_tables_are_monotone() -> None:
    factors = [float(row["factor"]) for row in table("cold_voltage")]
    assert factors == sorted(factors)
    for column in ("three_carrying_a", "two_carrying_a"):
        amps = [float(row[column]) for row in table("cord_ampacity")]
        assert amps == sorted(amps)


def test_heat_and_brightness() -> None:
    assert hottest_string_v(module(), 1, 35.0) < 34.0
    assert working_string_v(module(), 2, 25.0) == 68.0
    assert short_circuit_a(module(), 2) == 30.0


@pytest.mark.parametrize(
    ("ac_w", "efficiency", "idle_w", "volts", "amps"),
    [(3000, 1.0, 0, 24, 125), (2400, 0.94, 7, 25.6, 100), (862, 1.0, 0, 13.9, 62)],  # practice
)
def test_battery_amps(ac_w: float, efficiency: float, idle_w: float, volts: float, amps: float) -> None:
    assert dc_amps(ac_w, efficiency, idle_w, volts) == pytest.approx(amps, rel=1e-3)


def test_rest_of_the_battery_side() -> None:
    assert cable_and_fuse_a(100) == 125
    assert [may_differ_v(v) for v in (12.8, 25.6, 51.2, 96)] == [0.1, 0.2, 0.4, 0.4]
    ohms, amps, watts = precharge_resistor(51.2, 0.02, 3)
    assert (ohms, amps * ohms, watts) == pytest.approx((50, 51.2, 51.2**2 / 50))
    for bad in (lambda: dc_amps(1, 1, 0, 0), lambda: precharge_resistor(0, 1)):
        with pytest.raises(ValueError, match="above 0"):
            bad()


@pytest.mark.parametrize(
    ("metal", "sizes", "at_60", "at_75", "breaker_60", "breaker_75"),
    [
        ("copper", (14, 12, 10, 8, 6, 4, 3, 2, 1), [15, 20, 30, 40, 55, 70, 85, 95, 110],
         [20, 25, 35, 50, 65, 85, 100, 115, 130], [15, 20, 30, 40, 60, 70, 90, 100, 110],
         [15, 20, 30, 50, 70, 90, 100, 125, 150]),
        ("aluminium", (12, 10, 8, 6, 4, 3, 2, 1), [15, 25, 35, 40, 55, 65, 75, 85],
         [20, 30, 40, 50, 65, 75, 90, 100], [15, 25, 35, 40, 60, 70, 80, 90],
         [15, 25, 40, 50, 70, 80, 90, 100]),
    ],
)  # fmt: skip
def test_wires_by_both_columns(
    metal: str,
    sizes: tuple[int, ...],
    at_60: list[int],
    at_75: list[int],
    breaker_60: list[int],
    breaker_75: list[int],
) -> None:
    """NEC table 310.16, 240.4(B) and (D), from memory."""
    assert [wire_ampacity_a(size, metal, 60) for size in sizes] == at_60
    assert [wire_ampacity_a(size, metal, 75) for size in sizes] == at_75
    assert [largest_breaker_a(size, metal, 60) for size in sizes] == breaker_60
    assert [largest_breaker_a(size, metal, 75) for size in sizes] == breaker_75


def test_ampacity() -> None:
    """NEC 400.5(A)(1) and 240.4(D), from memory."""
    assert [cord_ampacity_a(g) for g in (18, 16, 14, 12, 10, 8, 6, 4)] == [10, 13, 18, 25, 30, 40, 55, 70]
    assert [cord_ampacity_a(g, 3) for g in (18, 16, 14, 12, 10, 8, 6, 4)] == [7, 10, 15, 20, 25, 35, 45, 60]
    assert largest_breaker_a(14, "aluminium") is None
    row = receptacle("nema l14-30")
    assert row
    assert (row["rating_a"], row["neutral"], row["cord_conductors"]) == ("30", "yes", "4")
    assert receptacle("own make") is None
