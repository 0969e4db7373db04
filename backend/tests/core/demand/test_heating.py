"""Heat loss and thermostats: heat balance by hand, and the degree-day method of heating handbooks."""

import math
from itertools import pairwise
from typing import Any

import pytest
from builders import Json, one_load

from weary_cedar.core.demand.heat_loss import (
    cycles_per_hour,
    heating_day,
    loss_from_fuel,
    loss_from_run_fraction,
    setback_saving,
)
from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan


def test_degree_days() -> None:
    """The textbook example of the degree-day method (as in the ASHRAE handbook, from memory): a house
    that loses 60,000 Btu/h at 70 °F difference, in 5,000 °F days, with a furnace of 80 %, burns
    24 · 60,000 · 5,000 / (70 · 0.8 · 100,000) = 1,286 therms a winter."""
    loss_w_per_k = 60_000 * 0.29307 / (70 / 1.8)
    assert loss_from_fuel("natural_gas", 1286, 5000 / 1.8, 0.8) == pytest.approx(loss_w_per_k, rel=2e-3)


@pytest.mark.parametrize(
    ("job", "field"),
    [
        (lambda: loss_from_fuel("peat", 1, 1, 1), "/fuel"),
        (lambda: loss_from_fuel("propane", 1, 0, 1), "/degree_days_k"),
        (lambda: loss_from_fuel("propane", 1, 1, 1.2), "/efficiency"),
        (lambda: loss_from_run_fraction(1.0, 9000, 20, 0), "/run_fraction"),
        (lambda: loss_from_run_fraction(0.5, 9000, 20, 20), "/outdoor_c"),
    ],
)
def test_figures_that_cannot_be(job: Any, field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        job()
    assert refused.value.problems[0].field == field


def test_day_of_a_furnace() -> None:
    assert [round(cycles_per_hour(x), 2) for x in (0, 0.1, 0.5, 1)] == [0, 1.08, 3, 0]
    cold, mild = (heating_day(t, 200, 20, 400, 12000, 600, 5) for t in (-45, 18))
    assert (cold.run_fraction, cold.short) == (1.0, True)
    assert (mild.run_fraction, mild.electrical_wh) == (0.0, 0.0)
    assert setback_saving(20, 16, 8, 25) == 0


def test_furnace_on_a_battery() -> None:
    """Common practice: 155 W inducer, 1,150 W blower on about 1,000 Wh run 45 to 53 min."""
    hours = 1000 / (155 + 1150)
    assert 45 <= 60 * hours <= 53


def furnace(**more: Any) -> Json:
    return {"kind": "thermostatic", "loss_w_per_k": 200.0, "output_w": 12_000.0, "run_w": 600.0, **more}


def run(spec: Json, hours: float = 240, cold_c: float = 0.0, **outage: Any) -> RunResult:
    weather = {"hourly_c": [cold_c]}
    station = {"nameplate_wh": 1e6}
    given = {"length_s": hours * 3600, "weather": weather, **outage}
    document = one_load(spec, station=station, outage=given, load={"tolerance_s": 1e6})
    result = run_outage(read_plan(document))
    assert result.ledger is not None
    assert result.ledger.closes
    return result


def cycles(result: RunResult) -> int:
    watts = result.load_series["only"].watts
    return sum(a == 0 and b > 0 for a, b in pairwise(watts))


@pytest.mark.parametrize("cold_c", [-20.0, 0.0, 12.0])
def test_runs_as_much_as_the_heat_balance_asks(cold_c: float) -> None:
    result = run(furnace(), cold_c=cold_c)
    x = (200 * (20 - cold_c) - 400) / 12_000
    assert result.loads["only"].served_wh == pytest.approx(600 * x * 240, rel=0.02)
    assert cycles(result) == pytest.approx(240 * cycles_per_hour(x), rel=0.05)
    indoor = result.indoor["only"].c
    assert max(abs(c - 20) for c in indoor) < 0.6


def test_indoor_temperature_without_power() -> None:
    """Exponential: after 24 h without heat at 0 °C, 2 + 18·exp(−24·200/5000) °C."""
    result = run(furnace(), hours=24, changeover_after_s=90_000.0)
    assert result.indoor["only"].c[-1] == pytest.approx(2 + 18 * math.exp(-24 * 200 / 5000), abs=1e-9)


def test_catches_up_after_a_cold_night() -> None:
    result = run(furnace(), hours=30, changeover_after_s=43_200.0, cold_c=-5.0)
    series = result.indoor["only"]
    lowest = min(series.c)
    assert lowest == pytest.approx(-3 + 23 * math.exp(-12 * 200 / 5000), abs=1e-9)
    assert series.c[-1] == pytest.approx(20, abs=0.6)
    first_call = result.load_series["only"]
    assert first_call.t_s[1] == 43_200.0
    assert first_call.t_s[2] - first_call.t_s[1] > 2 * 3600


def test_too_cold_to_keep_up() -> None:
    result = run(furnace(), cold_c=-50.0)
    assert result.loads["only"].served_wh == pytest.approx(600 * 240)
    assert result.indoor["only"].c[-1] == pytest.approx(-50 + (12_000 + 400) / 200, abs=0.01)


def test_sequence_and_blower_start() -> None:
    """Inducer, igniter, blower, post-purge; the start of the load belongs to the blower."""
    spec = furnace(
        before=[
            {"name": "inducer", "watts": 155, "seconds": 30},
            {"name": "igniter", "watts": 400, "seconds": 20},
        ],
        after=[{"name": "post-purge", "watts": 90, "seconds": 45}],
    )
    document = one_load(spec, station={"nameplate_wh": 1e6}, load={"start": {"va": 4600.0, "seconds": 1.0}})
    document["outage"]["weather"] = {"hourly_c": [0.0]}
    result = run_outage(read_plan(document))
    assert result.load_series["only"].watts[:4] == (155, 400, 0, 155)
    trip = next(event for event in result.events if event.kind == "trip")
    assert trip.t_s == 50.0
    document["loads"]["only"]["start"]["va"] = 1000.0
    fine = run_outage(read_plan(document)).load_series["only"]
    assert fine.watts[:5] == (155, 400, 600, 90, 0)


def test_setback_saves_heat() -> None:
    night = {"begins": "22:00:00", "ends": "06:00:00", "set_c": 16.0}
    plain, saved = run(furnace()), run(furnace(setback=night))
    share = 1 - saved.loads["only"].served_wh / plain.loads["only"].served_wh
    assert 0.02 < share < 20 / 18 * setback_saving(20, 16, 8, 0)
    assert min(saved.indoor["only"].c) < 17.5


def test_cooling_is_heating_mirrored() -> None:
    spec = furnace(mode="cool", set_c=24.0, output_w=3000.0, run_w=900.0, gain_w=0.0, loss_w_per_k=150.0)
    result = run(spec, cold_c=34.0)
    assert result.loads["only"].served_wh == pytest.approx(900 * 0.5 * 240, rel=0.02)


def test_series_is_played_back() -> None:
    spec = {"kind": "measured", "t_s": [0, 600, 900], "watts": [100, 0, 400], "length_s": 1200}
    result = run(spec, hours=1)
    series = result.load_series["only"]
    assert list(zip(series.t_s, series.watts, strict=True))[:5] == [
        (0, 100),
        (600, 0),
        (900, 400),
        (1200, 100),
        (1800, 0),
    ]
    assert result.loads["only"].served_wh == pytest.approx(3 * (100 * 600 + 400 * 300) / 3600)
    assert run({**spec, "repeats": False}, hours=1).loads["only"].served_wh == pytest.approx(50)
