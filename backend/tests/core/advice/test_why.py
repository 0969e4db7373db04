"""Where the energy went until it failed: what came is what went, of every house."""

import json
import math
from pathlib import Path

import pytest
from any_house import any_house
from command_line import cedar

from weary_cedar.core.advice.why import LEAST_WH, Why, why
from weary_cedar.core.errors import RunTooLong
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Strategy, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.store.edits import canonical


@pytest.mark.parametrize("first", [0, 30])
def test_what_came_is_what_went(first: int) -> None:
    plans = [*map(demo_plan, DEMOS)] if not first else []
    shown = 0
    for plan in [*plans, *(read_plan(any_house(seed)) for seed in range(first, first + 30))]:
        try:
            run = run_outage(plan)
        except RunTooLong:
            continue
        found = why(plan, run)
        came, went = (math.fsum(bar.wh for bar in bars) for bars in (found.came, found.went))
        #: Bars too small to be shown are left out on both sides.
        assert came == pytest.approx(went, rel=1e-6, abs=20 * LEAST_WH)
        assert all(bar.wh > 0 for bar in (*found.came, *found.went, *found.not_taken))
        shown += bool(found.went)
    assert shown > 10


def test_it_is_counted_until_it_fails_and_says_what_was_not_taken(tmp_path: Path) -> None:
    document = apply_patch(canonical(demo_plan("foothill")), {"outage": {"length_s": 8 * 86_400.0}})
    plan = read_plan(document)
    run = run_outage(plan)
    found = why(plan, run)
    assert found.until_s == run.verdict.until_s
    assert "were there until it fails, " in found.sentence
    served = {bar.part: bar.wh for bar in found.went}
    assert served["loads/furnace"] < run.loads["furnace"].served_wh, "no more is counted after that"
    sunny = read_plan(apply_patch(document, {"arrays": {"ground": {"parallel": 5}}}))
    spare = why(sunny, run_outage(sunny))
    assert sum(bar.wh for bar in spare.not_taken) > 1_000
    assert "were offered and not taken" in spare.sentence
    path = tmp_path / "plan.json"
    path.write_text(json.dumps(document))
    told = cedar("why", str(path), "--json")
    assert told.returncode == 1
    assert Why.model_validate_json(told.stdout) == found
    assert "Stored and got:" in cedar("why", str(path)).stdout


def test_nothing_is_drawn_where_nothing_ran() -> None:
    plan = demo_plan("hut")
    nothing = plan.model_copy(update={"leads": {}, "arrays": {}, "externals": {}, "strategy": Strategy()})
    told = why(nothing, run_outage(nothing))
    assert told.went == ()
    assert told.sentence.startswith("There is no energy to account for")
