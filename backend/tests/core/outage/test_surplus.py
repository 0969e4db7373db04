"""Loads that run only on sun that is left over."""

import pytest
from builders import Json, circuit, house, load, steady

from weary_cedar.core.checks import findings_of
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan

HOUR_S = 3_600.0


def sunny(*rules: Json, start_percent: float = 100.0) -> Json:
    """A 1 kWh station with 800 W of sun from 8 to 16 h, a steady 100 W, and two that want spare sun."""
    loads = {"base": steady(100.0), "warm": steady(500.0), "more": steady(400.0)}
    marks = {"base": "keep", "warm": "room", "more": "room"}
    spaces = {key: circuit([1 + 4 * n], marks[key]) for n, key in enumerate(loads)}
    station = {
        "nameplate_wh": 1_000.0,
        "max_charge_w": 2_000.0,
        "dc_inputs": {"sun": {"high_v": 60.0, "most_a": 30.0, "most_w": 1_000.0, "efficiency": 1.0}},
    }
    made = house(spaces, {key: load(key, spec) for key, spec in loads.items()}, station=station)
    made["outage"] |= {"length_s": 24 * HOUR_S, "start_charge_percent": {"unit": start_percent}}
    module = {"watts": 400.0, "voc_v": 40.0, "vmp_v": 33.0, "isc_a": 12.0, "imp_a": 11.0}
    seen = {"t_s": [8 * HOUR_S, 16 * HOUR_S], "watts": [800.0, 0.0]}
    made["arrays"] = {
        "sun": {"name": "sun", "station_id": "unit", "input_id": "sun", "module": module, "seen": seen}
    }
    made["strategy"] = {"rules": list(rules), "shedding": "none"}
    return made


RULE: Json = {"kind": "surplus", "load_ids": ["warm", "more"], "above_percent": 90.0}


def spans(result: object, key: str) -> list[tuple[float, float]]:
    """Hours at which a load changed, and its watts from then on."""
    drawn = result.load_series[key]  # type: ignore[attr-defined]
    return [(t / HOUR_S, w) for t, w in zip(drawn.t_s, drawn.watts, strict=True)]


def test_spare_sun_goes_to_the_first_that_fits_once_the_cells_are_nearly_full() -> None:
    """At 8 h 200 Wh are left; +700 W bring 900 Wh at 9 h. Of 700 W spare 500 run, 400 more do not fit."""
    result = run_outage(read_plan(sunny(RULE)))
    assert spans(result, "warm") == [(0.0, 0.0), (pytest.approx(9.0, abs=0.01), 500.0), (16.0, 0.0)]
    assert spans(result, "more") == [(0.0, 0.0)]
    assert result.rules[0].acted == 1
    assert result.verdict.status == "lasts", "waiting for sun is not being without power"
    free = run_outage(read_plan(sunny({**RULE, "on": False})))
    assert free.verdict.status == "does_not_last"
    assert result.suns["sun"].curtailed_wh == pytest.approx(200 * 6.5)


def test_what_went_on_stays_on_for_ten_minutes() -> None:
    """A cloud three minutes after it went on: common practice, no switching every minute."""
    made = sunny(RULE)
    cloud_s = 9 * HOUR_S + 180.0
    made["arrays"]["sun"]["seen"] = {"t_s": [8 * HOUR_S, cloud_s], "watts": [800.0, 0.0]}
    _, on, off = spans(run_outage(read_plan(made)), "warm")[:3]
    assert (on[1], off[1]) == (500.0, 0.0)
    assert off[0] - on[0] == pytest.approx(1 / 6, abs=1e-3)


def test_it_begins_at_its_charge_and_not_before() -> None:
    low = {**RULE, "load_ids": ["more"], "above_percent": 99.0}
    made = sunny(low, start_percent=90.0)
    made["circuits"]["warm"]["mark"] = "off"
    result = run_outage(read_plan(made))
    first = spans(result, "more")[1]
    assert first[1] == 400.0
    unit = result.batteries["unit"]
    at = next(i for i, t in enumerate(unit.t_s) if t / HOUR_S >= first[0] - 1e-9)
    assert unit.stored_wh[at] == pytest.approx(990, abs=2)


def test_without_sun_it_can_never_act_and_says_so() -> None:
    dark = sunny(RULE)
    dark["arrays"] = {}
    plan = read_plan(dark)
    assert run_outage(plan).rules[0].never == "no sun reaches the station"
    found = [finding for finding in findings_of(plan) if finding.check_id == "rule-never"]
    assert [finding.element.id for finding in found] == ["warm"]
