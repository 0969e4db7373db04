"""Every key of a result is documented, and what is said of courses is true."""

from itertools import pairwise
from pathlib import Path

import pytest

from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.result import RunResult
from weary_cedar.core.supply.shown_hours import shown_hours
from weary_cedar.demo import DEMOS, demo_plan

DOC = (Path(__file__).parents[4] / "docs/result.md").read_text(encoding="utf-8")
RUNS = {name: run_outage(demo_plan(name)) for name in DEMOS}


def test_every_key_is_documented() -> None:
    schema = RunResult.model_json_schema(mode="serialization")
    models = {"RunResult": schema, **schema["$defs"]}
    keys = {key for model in models.values() for key in model.get("properties", ())}
    assert len(keys) > 100
    assert [key for key in sorted(keys) if f"`{key}`" not in DOC] == []


@pytest.mark.parametrize("name", DEMOS)
def test_stretches_of_an_engine_are_its_hours(name: str) -> None:
    for share in RUNS[name].sources.values():
        if share.kind == "generator":
            assert sum(span.ends_s - span.begins_s for span in share.ran) == pytest.approx(share.on_s)
            assert all(one.ends_s < two.begins_s for one, two in pairwise(share.ran))


@pytest.mark.parametrize("name", DEMOS)
def test_keys_are_ids_of_the_plan(name: str) -> None:
    plan, result = demo_plan(name), RUNS[name]
    assert set(result.batteries) == set(plan.stations)
    assert set(result.externals) <= set(plan.externals)
    assert set(result.leads) <= set(plan.leads) >= set(result.ways)
    assert set(result.suns) <= set(plan.arrays)
    rooms = {"stations", "links", "generators", "vehicles"}
    assert all(key == "grid" or key.split("/")[0] in rooms for key in result.sources)


def test_a_display_follows_the_load_slowly_and_shows_whole_per_cents() -> None:
    """1,000 Wh to 10 %: 100 W for an hour, then 400 W; ten minutes later 1 − 1/e of the step is shown."""
    unit = (
        demo_plan("foothill")
        .stations["station"]
        .model_copy(
            update={"packs": {}, "nameplate_wh": 1_000.0, "cutoff_percent": 10.0, "display_time_s": 600.0}
        )
    )
    rows = [(0.0, 1_000.0, 100.0, 0.0), (3_600.0, 904.0, 400.0, 0.0), (4_200.0, 838.0, 400.0, 0.0),
            (5_000.0, 750.0, 100.0, 300.0)]  # fmt: skip
    shown = shown_hours(unit, rows)
    smooth = 400.0 - 300.0 / 2.718281828
    assert shown[0] == pytest.approx(900.0 / 100.0)
    assert shown[1] == pytest.approx(800.0 / 100.0)
    assert shown[2] == pytest.approx(740.0 / smooth)
    assert shown[3] is None
    at_once = shown_hours(unit.model_copy(update={"display_time_s": 0.0}), rows)
    assert at_once[1] == pytest.approx(800.0 / 400.0)
