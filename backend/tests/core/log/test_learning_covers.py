"""What is learnt from sessions with a known truth: intervals of nine in ten hold it nine times in ten.

The bounds are those that a share of 0.9 misses once in a thousand (binomial law); `make fuzz` goes on with
fresh seeds and prints the share.
"""

from collections import Counter

import numpy as np
import pytest
from scipy.stats import binom
from told_sessions import HOUR_S, held, lamp_house, slips, told

from weary_cedar.core.log.forecast import forecast
from weary_cedar.core.log.learn import learn
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan.refs import without
from weary_cedar.demo import demo_plan

#: Once in so many sound programs a bound is missed by chance; seeds are fixed, so this is settled once.
BY_CHANCE = 1e-3
SEEDS = 24


def enough(held: int, of: int, share: float = 0.9) -> bool:
    return held >= int(binom.ppf(BY_CHANCE, of, share))


def test_intervals_of_one_load_hold_the_truth_and_no_clean_row_is_called_wrong() -> None:
    plan, found, wrong = lamp_house(), Counter[str](), 0
    for seed in range(SEEDS):
        session = told(plan, seed)
        lesson = learn(plan, session.session)
        found.update(key for key, holds in held(session, lesson) if holds)
        wrong += bool(lesson.misfits)
    for key in ("draws", "stations/unit/cells"):
        assert enough(found[key], SEEDS), (key, found)
    assert wrong <= 0.05 * SEEDS


@pytest.mark.parametrize("engine", [True, False])
def test_intervals_of_a_house_with_sun_hold_the_truth(engine: bool) -> None:
    """Twenty loads, most of them guessed, some measured on another day; with the engine's rule, too."""
    plan = demo_plan("foothill")
    plan = plan if engine else without(plan, "generators", "inverter-2k")
    found, asked = Counter[str](), 0
    for seed in range(3):
        session = told(plan, seed)
        for key, holds in held(session, learn(plan, session.session)):
            found[key] += holds
            asked += 1
    assert asked == 12
    assert enough(found.total(), asked), found


def test_slips_are_named_in_nine_of_ten() -> None:
    plan, named, asked = lamp_house(), Counter[str](), Counter[str]()
    for seed in range(7):
        for kind, row_id, session in slips(told(plan, seed), seed):
            asked[kind] += 1
            lesson = learn(plan, session)
            named[kind] += row_id in {misfit.row_id for misfit in lesson.misfits}
    assert set(asked) == {"ten times", "turned round", "late"}
    for kind, count in asked.items():
        assert named[kind] >= 0.9 * count, (kind, named, asked)


def test_watts_far_under_what_always_runs_are_a_slip() -> None:
    """Watts a tenth of what they were, in a house in which pumps and compressors go on and off."""
    plan = demo_plan("foothill")
    of = told(plan, 3)
    watts = [row for row in of.session.rows if row.what == "out_w" and 80 < (row.value or 0) < 300]
    row = watts[-1]
    told_wrong = row.model_copy(update={"value": (row.value or 0.0) / 20.0})
    rows = [told_wrong if other.id == row.id else other for other in of.session.rows]
    assert row.id in {misfit.row_id for misfit in learn(plan, of.with_rows(rows)).misfits}


def test_bands_of_forecasts_hold_when_it_really_ended() -> None:
    """From the charge that was read at hours 2 to 10 of houses as they may be."""
    plan, holds, asked = lamp_house(), 0, 0
    for seed in range(40):
        of = told(plan, seed, hours=10.0)
        verdict = run_outage(of.true).verdict
        found = forecast(plan, of.session)
        ended = verdict.until_s if verdict.until_s is not None else 40 * HOUR_S
        begins = plan.outage.start_local
        low, high = (
            np.inf if moment is None else (moment.replace(tzinfo=None) - begins).total_seconds()
            for moment in (found.low, found.high)
        )
        asked += 1
        holds += low - 60.0 <= ended <= high + 60.0 if np.isfinite(low) else verdict.until_s is None
    assert enough(holds, asked), (holds, asked)
