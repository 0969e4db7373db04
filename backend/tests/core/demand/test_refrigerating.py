"""What lies in a cold compartment: guidance of the U.S. Department of Agriculture (refrigerator about 4 h,
freezer half full 24 h, full 48 h to 40 °F; from memory), a logged freezer (common practice, no source), and a
numerical solution by SciPy."""

import math
from itertools import pairwise

import pytest
from builders import circuit as breaker
from builders import house, load, one_load
from scipy.integrate import solve_ivp

from weary_cedar.core.demand import RefrigeratingDemand
from weary_cedar.core.demand.cold_store import ColdStore
from weary_cedar.core.library import beginnings
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Compartment, Refrigerating, read_plan

DAY_S = 86_400.0
SPEC = beginnings()["refrigerating"].model_dump(mode="json", exclude_none=True)


def store(kg: float, loss: float, start_c: float) -> ColdStore:
    return ColdStore(Compartment(name="x", contents_kg=kg, loss_w_per_k=loss, set_c=start_c), start_c)


def to_40f_h(item: ColdStore, room_c: float = 21.0) -> float:
    return item.hours_to(item.limit_wh, room_c, 0.0)


def test_closed_and_without_power_it_keeps_as_long_as_the_guidance_says() -> None:
    kept = {key: Compartment.model_validate(item) for key, item in SPEC["compartments"].items()}
    assert to_40f_h(ColdStore(kept["fridge"], 3.0)) == pytest.approx(4.0, rel=0.05)
    half = to_40f_h(ColdStore(kept["freezer"], -18.0))
    full = kept["freezer"].model_copy(update={"contents_kg": 2 * kept["freezer"].contents_kg})
    assert half == pytest.approx(24.0, rel=0.05)
    assert to_40f_h(ColdStore(full, -18.0)) == pytest.approx(2 * half)


def test_a_logged_freezer_is_met_within_a_degree_and_a_half_in_its_air() -> None:
    """A small freezer compartment from 0 °F in a warm room, read in its air; one time constant cannot fit."""
    item = store(10.0, 0.28, -17.8)
    read_f = {2.5: 20, 5: 28, 7: 31, 13: 40, 24: 40.5}
    for hours, fahrenheit in read_f.items():
        item.settle(hours * 3600, 26.0, 0.0, powered=False)
        assert item.air_c == pytest.approx((fahrenheit - 32) / 1.8, abs=1.5), hours


@pytest.mark.parametrize(("start_c", "cold_w"), [(-18.0, 0.0), (-3.0, 0.0), (8.0, 300.0), (2.0, 0.0)])
def test_courses_are_those_of_a_numerical_solution(start_c: float, cold_w: float) -> None:
    kg, loss, room = 12.0, 1.1, 22.0
    item = store(kg, loss, start_c)
    begin = item.heat_wh

    def celsius(heat: float) -> float:
        if heat <= 0:
            return heat / (kg * 1.9 / 3.6)
        return max(0.0, heat - item.thaw_wh) / (kg * 3.5 / 3.6)

    def rate(_: float, state: list[float]) -> list[float]:
        contents = celsius(state[0])
        return [loss * (room - contents) - cold_w, contents + 0.19 * (room - contents) - state[1]]

    hours = 30.0
    found = solve_ivp(rate, (0, hours), [begin, start_c], max_step=0.01, rtol=1e-9, atol=1e-9)
    item.settle(hours * 3600, room, cold_w, powered=False)
    assert item.heat_wh == pytest.approx(found.y[0][-1], abs=0.05)
    assert item.air_c == pytest.approx(found.y[1][-1], abs=0.02)


def test_time_over_the_limit_is_counted_on_the_contents_to_the_second() -> None:
    item = store(12.0, 1.1, 3.0)
    crosses_s = 3600 * to_40f_h(item)
    item.settle(crosses_s + 600, 21.0, 0.0, powered=False)
    assert (item.over_s, item.first_over_s) == pytest.approx((600.0, crosses_s))
    back_s = 3600 * item.hours_to(item.limit_wh, 21.0, 200.0)
    item.settle(crosses_s + 600 + back_s + 50, 21.0, 200.0, powered=True)
    assert item.over_s == pytest.approx(600.0 + back_s)


def test_with_power_its_mean_is_what_the_set_points_lose() -> None:
    result = run_outage(read_plan(one_load(SPEC, outage={"length_s": 5 * DAY_S})))
    heat_w = sum(c["loss_w_per_k"] * (21 - c["set_c"]) for c in SPEC["compartments"].values())
    mean_w = result.loads["only"].served_wh / (5 * 24)
    assert mean_w == pytest.approx(heat_w / SPEC["cop"], rel=0.05)
    assert all(part.over_s == 0 for part in result.compartments.values())
    starts = [b for (_, a), (_, b) in pairwise(zip(*_series(result), strict=True)) if b > a]
    assert 60 < len(starts) < 400, "a compressor neither chatters nor rests for days"


def test_time_off_is_not_free_and_food_decides_what_lasts() -> None:
    """Three hours without power are within what it keeps; the compressor runs afterwards until it is cold."""
    act = {"room": "circuits", "part_id": "only"}
    off = {"a": {**act, "at_s": 6 * 3600.0, "turn": "off"}, "b": {**act, "at_s": 9 * 3600.0, "turn": "on"}}
    always = run_outage(read_plan(one_load(SPEC, outage={"length_s": DAY_S})))
    rested = run_outage(read_plan(one_load(SPEC, outage={"length_s": DAY_S, "acts": off})))
    assert rested.verdict.status == "lasts"
    assert rested.loads["only"].served_wh == pytest.approx(always.loads["only"].served_wh, rel=0.06)
    times, watts = _series(rested)
    index = next(i for i, t in enumerate(times) if t >= 9 * 3600)
    assert watts[index] > 0
    assert times[index + 1] - times[index] > 3_000


def test_contents_that_grow_too_warm_are_an_event_and_end_what_lasts() -> None:
    document = one_load(SPEC, outage={"length_s": DAY_S, "changeover_after_s": 20 * 3600.0})
    result = run_outage(read_plan(document))
    event = next(e for e in result.events if e.kind == "food_warm")
    fridge = result.compartments["only/fridge"]
    assert "refrigerator: contents over 40 °F" in event.what
    assert event.t_s == fridge.first_over_s == result.verdict.until_s
    assert result.compartments["only/freezer"].over_s == 0
    assert fridge.over_s > 16 * 3600


def test_a_chest_outdoors_follows_the_weather_and_a_defrost_comes_on_its_clock() -> None:
    chest = {"name": "chest", "contents_kg": 20.0, "loss_w_per_k": 0.8, "set_c": -18.0}
    spec = {"kind": "refrigerating", "on_w": 90.0, "compartments": {"chest": chest}}
    spec["defrost"] = {"watts": 300.0, "seconds": 1200.0, "every_s": 12 * 3600.0}
    weather = {"low_c": -25.0, "high_c": -20.0}
    document = house(
        {"one": breaker([1])},
        {"box": load("one", spec, place_id="porch")},
        outage={"weather": weather, "length_s": 2 * DAY_S},
    )
    document["places"] = {"porch": {"name": "porch", "kind": "outdoors"}}
    result = run_outage(read_plan(document))
    drawn = result.load_series["box"]
    assert set(drawn.watts) == {0.0, 300.0}, "colder outdoors than inside: it never cools"
    assert sum(w == 300.0 for w in drawn.watts) == math.floor(48 / 12) - 1


class Still:
    """Air that stays at 21 °C."""

    def at(self, t: float) -> float:
        return 21.0

    def next_change(self, t: float) -> float:
        return math.inf


@pytest.mark.parametrize(("runs_before", "resumes"), [(True, True), (False, False)])
def test_after_a_gap_inside_its_band_it_goes_on_as_its_thermostat_stands(
    runs_before: bool, resumes: bool
) -> None:
    """Power gone for five minutes while it cools, or while it rests: the contents stay inside the band."""
    item = RefrigeratingDemand(Refrigerating.model_validate(SPEC), Still(), 0.5)
    item.power(0.0, True)
    t = 0.0
    while (item.watts > 0) is not runs_before or t == 0.0:
        t = item.next_s
        item.step(t)
    gap_s = t + 60.0
    item.power(gap_s, False)
    item.power(gap_s + 300.0, True)
    assert (item.watts > 0) is resumes


def _series(result: object) -> tuple[tuple[float, ...], tuple[float, ...]]:
    drawn = result.load_series["only"]  # type: ignore[attr-defined]
    return drawn.t_s, drawn.watts
