"""Figures that once were accepted and then broke the plan that held them: refused now, with the reason."""

from typing import Any

import pytest
from builders import Json, circuit, house, load, refusals, steady

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.plan.reading import parse

GOOD = house({"a": circuit([1])}, {"a": load("a", steady(100), start={"va": 900.0})})
HEATER = {"kind": "thermostatic", "capacity_wh_per_k": 1e-6}
MILLISECOND = {"kind": "measured", "t_s": [0], "watts": [5], "length_s": 0.001}


def behaves(behaviour: Json) -> Json:
    return {"loads": {"a": {"behaviour": {**dict.fromkeys(("kind", "watts")), **behaviour}}}}


def curve(*points: tuple[float, float | None]) -> Json:
    listed = [{"multiple": multiple, "seconds": seconds} for multiple, seconds in points]
    return {"stations": {"unit": {"overload_curve": listed}}}


@pytest.mark.parametrize(
    ("patch", "field", "right"),
    [
        ({"loads": {"a": {"start": {"va": 0}}}}, "/loads/a/start/va", "a start of nothing is none"),
        ({"stations": {"unit": {"cell_wh": 0}}}, "/stations/unit/cell_wh", "at least 1 Wh"),
        (curve((1.1, 60), (1.5, 60)), "/stations/unit/overload_curve", "seconds fall"),
        (curve((1.1, 60), (1.5, None)), "/stations/unit/overload_curve", "lasting ones first"),
        ({"outage": {"start_local": "0001-01-01T00:00:00"}}, "/outage/start_local", "2000 to 2099"),
        ({"outage": {"start_local": "9999-12-31T00:00:00"}}, "/outage/start_local", "2000 to 2099"),
        (behaves(HEATER), "/loads/a/behaviour/capacity_wh_per_k", "no room does"),
        (behaves(MILLISECOND), "/loads/a/behaviour/length_s", "shorter than a minute makes no sense here"),
        ({"stations": {"unit": {"leg_va": 1e-9}}}, "/stations/unit/leg_va", "carries no appliance"),
        ({"stations": {"unit": {"rated_va": 1e-9}}}, "/stations/unit/rated_va", "carries no appliance"),
        ({"feeds": {"feed": {"breaker_a": 1e-9}}}, "/feeds/feed/breaker_a", "10 mA"),
        ({"loads": {"a": {"power_factor": 1e-9}}}, "/loads/a/power_factor", "no appliance is under 0.05"),
        ({"panels": {f"p{n}": {"name": "P"} for n in range(120)}}, "/panels", "at most 100"),
    ],
)
def test_what_cannot_be_derived_is_refused(patch: Json, field: str, right: str) -> None:
    found = refusals(apply_patch(GOOD, patch))
    assert right in found.get(field, ""), found


def test_a_curve_with_only_a_lasting_multiple_trips_above_it() -> None:
    document: Any = apply_patch(GOOD, curve((1.0, None)))
    document["loads"]["a"]["start"]["va"] = 9000.0
    result = run_outage(read_plan(document))
    assert result.verdict.start_pinch is not None
    assert result.verdict.start_pinch.rating == 6000.0
    assert any(event.kind == "trip" for event in result.events)


def test_cells_of_nothing_with_packs_are_an_inverter() -> None:
    packs = {"p": {"name": "pack", "nameplate_wh": 2000.0}}
    read_plan(apply_patch(GOOD, {"stations": {"unit": {"cell_wh": 0, "packs": packs}}}))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        (b'{"a": NaN}', "NaN is not a JSON number"),
        (b'{"a": 1e999}', "1e999 is too large"),
        (b'{"a": ' + b"9" * 5000 + b"}", "integer string conversion"),
        (b'{"a": "\\ud800"}', "half a character at /a"),
        (b'{"\\udc00x": 1}', "half a character at /"),
        (b"\xed\xa0\x80", "not text in UTF-8"),
        (b'{"a": 1, "a": 2}', "stands twice"),
        (b"[" * 100_000, "nested too deeply"),
    ],
)
def test_text_that_is_no_json(text: bytes, words: str) -> None:
    with pytest.raises(InvalidInput, match=words):
        parse(text)
