"""Plates as they are printed (invented lines in the ways of writing that plates use)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from weary_cedar.core.errors import InvalidInput
from weary_cedar.formats.plate_line import KINDS, read_plate

MODULE = (
    "Maximum Power (Pmax): 400W  Open Circuit Voltage (Voc) 37.1V  Max. Power Voltage Vmp 31.2 V\n"
    "Short-Circuit Current (Isc): 13.6 A, Imp 12.8A  Temperature coefficient of Voc −0.27 %/°C\n"
    "Maximum Series Fuse Rating 25 A"
)


@pytest.mark.parametrize(
    ("kind", "text", "expected"),
    [
        ("dc_input", "11V-60V⎓15A,500W Max", {"low_v": 11, "high_v": 60, "most_a": 15, "most_w": 500}),
        ("dc_input", "12–150 V, 15 A, 1.6kW", {"low_v": 12, "high_v": 150, "most_a": 15, "most_w": 1600}),
        ("dc_input", "max 60 V 8 A", {"high_v": 60, "most_a": 8}),
        ("dc_input", "30 to 145 V", {"low_v": 30, "high_v": 145}),
        ("ac_input", "AC IN 100-120V~ 50/60Hz 15A Max 1800W", {"volts": 120, "cap_a": 15, "most_w": 1800}),
        ("ac_input", "220–240 V~ 50 Hz 10 A", {"volts": 230, "cap_a": 10}),
        ("ac_input", "240 V 60 Hz 30 A", {"volts": 240, "cap_a": 30}),
        ("ac_input", "230V 16A", {"volts": 230, "cap_a": 16}),
        (
            "module",
            MODULE,
            {
                "watts": 400, "voc_v": 37.1, "vmp_v": 31.2, "isc_a": 13.6, "imp_a": 12.8,
                "series_fuse_a": 25, "voc_percent_per_k": -0.27,
            },
        ),
        ("module", "Voc=24,6V Isc=10,4A", {"voc_v": 24.6, "isc_a": 10.4}),
        ("generator", "1.8kW rated, 2200 W max", {"rated_w": 1800, "starting_w": 2200}),
        ("generator", "Rated 3.5 kVA", {"rated_w": 3500}),
    ],
)  # fmt: skip
def test_read(kind: str, text: str, expected: dict[str, float]) -> None:
    assert read_plate(kind, text) == expected


@pytest.mark.parametrize(
    ("kind", "text", "right"),
    [
        ("ac_input", "220-240V 10A", "60 Hz for 240 V, 50 Hz for 230 V"),
        ("ac_input", "480 V 20 A", "120, 230 or 240 V"),
        ("dc_input", "made with care", "as printed"),
        ("module", "400 W", "as printed"),
        ("toaster", "5 V", "one of dc_input"),
    ],
)
def test_what_cannot_be_read_is_asked(kind: str, text: str, right: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_plate(kind, text)
    assert right in refused.value.problems[0].right


@given(kind=st.sampled_from(KINDS), text=st.text(max_size=120))
def test_any_text_is_read_or_refused(kind: str, text: str) -> None:
    try:
        found = read_plate(kind, text)
    except InvalidInput:
        return
    assert found
    assert all(isinstance(value, float) for value in found.values())
