"""Motor starts: NFPA 70 (2023) tables 430.248 and 430.7(B), quoted from memory."""

from itertools import pairwise

import pytest

from weary_cedar.core.electrical.motor_start import (
    clamp_meter_w,
    code_letter_kva,
    full_load_a,
    motor_start,
)
from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.tables import source, table


@pytest.mark.parametrize(
    ("horsepower", "amps"), [(0.5, 9.8), (0.75, 13.8), (1, 16), (1.5, 20), (2, 24), (3, 34), (5, 56)]
)
def test_full_load_current(horsepower: float, amps: float) -> None:
    assert full_load_a(horsepower, 115) == amps
    assert full_load_a(horsepower, 230) == amps / 2


@pytest.mark.parametrize(
    ("letter", "band"),
    [("G", (5.6, 6.29)), ("H", (6.3, 7.09)), ("J", (7.1, 7.99)), ("K", (8.0, 8.99)), ("L", (9.0, 9.99))],
)
def test_code_letters(letter: str, band: tuple[float, float]) -> None:
    assert code_letter_kva(letter) == band


def test_the_best_that_the_plate_gives() -> None:
    assert motor_start(115, locked_rotor_a=40).high_va == 4600
    assert motor_start(230, horsepower=1, code_letter="k").low_va == pytest.approx(8000)
    estimate = motor_start(115, horsepower=0.5)
    assert estimate.high_va == pytest.approx(6 * 9.8 * 115)
    assert "estimate" in estimate.basis
    assert estimate.low_w == pytest.approx(0.5 * estimate.low_va)
    assert clamp_meter_w(62, 13.9) == pytest.approx(862, abs=1)  # common practice


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({}, "/"),
        ({"horsepower": 0.9}, "/horsepower"),
        ({"horsepower": 1, "code_letter": "I"}, "/code_letter"),
    ],
)
def test_what_the_plate_cannot_say(given: dict[str, float], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        motor_start(230, **given)  # type: ignore[arg-type]
    assert refused.value.problems[0].field == field


@pytest.mark.parametrize("name", ["motor_full_load", "motor_code_letters", "fuels", "appliances"])
def test_every_row_names_its_source(name: str) -> None:
    assert all(source(row["source_id"])["title"] for row in table(name))


def test_the_last_code_letter_is_open_above() -> None:
    """NFPA 70 (2023) table 430.7(B), from memory: V is 22.4 and up."""
    start = motor_start(230, horsepower=1, code_letter="V")
    assert (start.low_va, start.high_va) == (22_400.0, 22_400.0)
    assert "at least" in start.basis
    assert "at least" not in motor_start(230, horsepower=1, code_letter="U").basis


def test_tables_rise() -> None:
    amps = [float(row["full_load_115_v_a"]) for row in table("motor_full_load")]
    closed = [row for row in table("motor_code_letters") if row["to_kva_per_hp"]]
    bands = [(float(row["from_kva_per_hp"]), float(row["to_kva_per_hp"])) for row in closed]
    assert amps == sorted(amps)
    assert all(low < high for low, high in bands)
    assert all(a[1] < b[0] for a, b in pairwise(bands))
    assert len({row["appliance_id"] for row in table("appliances")}) >= 60
