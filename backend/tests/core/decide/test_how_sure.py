"""How sure a verdict is: by runs with all doubts against it and for it, and in words."""

import math

import pytest
from builders import Json, cycling, job, load, one_load, steady

from weary_cedar.core.decide.how_sure import drawing, judged
from weary_cedar.core.decide.needs import need_list
from weary_cedar.core.outage.result import Verdict
from weary_cedar.core.plan import Load, read_plan

#: Of a station of its class at 500 W and more, as a share. Common practice.
UNSURE = 0.06


def verdict_of(plan: Json) -> Verdict:
    return judged(read_plan(plan)).verdict


def steady_on(wh: float, origin: str) -> Json:
    """500 W on an ideal station: wh/500 hours."""
    plan = one_load(steady(500.0), station={"nameplate_wh": wh}, load={"origin": origin})
    plan["outage"]["length_s"] = 10 * 3600.0
    return plan


@pytest.mark.parametrize(
    ("wh", "origin", "status", "words"),
    [
        (9000.0, "measured", "lasts", "with 8 % more drawn it lasts, too, 40 % left"),
        (5500.0, "estimate", "lasts", "not sure, with 50 % more drawn it lasts only until Mon 12 Jan 07:18"),
        (4500.0, "estimate", "does_not_last", "not sure, with 50 % less drawn it would last"),
        (2000.0, "measured", "does_not_last", "from Mon 12 Jan 03:4"),
    ],
)
def test_it_is_said_also_when_it_lasts(wh: float, origin: str, status: str, words: str) -> None:
    verdict = verdict_of(steady_on(wh, origin))
    assert verdict.status == status
    assert verdict.how_sure.startswith(words)
    assert verdict.least is not None
    assert verdict.most is not None
    if verdict.until_s is not None and verdict.least.until_s is not None:
        assert verdict.least.until_s < verdict.until_s


def test_independent_doubts_add_as_squares() -> None:
    """A measured load is known within 5 %, a station of its class at 500 W and more within 6 %."""
    verdict = verdict_of(steady_on(1000.0, "measured"))
    doubt = need_list(read_plan(steady_on(1000.0, "measured"))).how_long.doubt
    assert verdict.uncertainty == doubt == pytest.approx(math.hypot(0.05, UNSURE))


@pytest.mark.parametrize(
    ("behaviour", "mean"),
    [
        (steady(80.0), lambda spec: spec.watts),
        (cycling(100.0, 0.4, 1200.0), lambda spec: spec.duty * spec.on_w),
        (job("08:00:00", "09:00:00", (900.0, 20.0)), lambda spec: spec.steps[0].minutes * 900.0),
        ({"kind": "measured", "t_s": [0.0], "watts": [60.0], "length_s": 60.0}, lambda spec: spec.watts[0]),
    ],
)  # fmt: skip
def test_a_load_draws_more_energy_by_the_doubt(behaviour: Json, mean: object) -> None:
    plan = read_plan(one_load(behaviour))
    own: Load = plan.loads["only"]
    more = drawing(own, 1.25).behaviour
    assert callable(mean)
    assert mean(more) == pytest.approx(1.25 * mean(own.behaviour))


def test_what_nobody_said_is_told() -> None:
    told = " · ".join(verdict_of(steady_on(9000.0, "measured")).assumed)
    assert "unit is full when the power goes out: its charge is not said" in told
    assert "power factors of 1 loads are guessed" in told
    plan = steady_on(9000.0, "measured")
    plan["loads"]["only"] = load("only", steady(500.0), power_factor_origin="measured", origin="measured")
    plan["outage"]["start_charge_percent"] = {"unit": 100.0}
    plan["stations"]["unit"]["idle_origin"] = "measured"
    assert verdict_of(plan).assumed == ()
