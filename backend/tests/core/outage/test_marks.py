"""Every level is met, however it coincides with something else."""

import copy
from collections.abc import Iterator
from itertools import product

import pytest
from builders import Json, circuit, house, load, steady

from weary_cedar.core.outage import RunResult, run_outage
from weary_cedar.core.plan import read_plan

#: How much sooner or later than the level something else happens, s.
BESIDE_S = (-2e-6, -1e-7, -1e-9, 0.0, 1e-9, 1e-7, 2e-6)
#: Event that tells that a level was acted on → what the plan says of that level.
LEVELS: dict[str, Json] = {
    "empty": {"station": {"cutoff_percent": 10.0}},
    "room_shed": {"strategy": {"room_off_below_percent": 30.0}},
    "engine_on": {"strategy": {"rules": [{"kind": "engine", "generator_id": "g", "on_below_percent": 40.0}]}},
}


def plan_with(kind: str, watts: float, wh: float, efficiency: float) -> Json:
    more = LEVELS[kind]
    station = {
        "nameplate_wh": wh, "inverter_efficiency": efficiency, "idle_w": 20.0,
        "ac_inputs": {"ac": {"volts": 120, "most_w": 500.0}}, **more.get("station", {}),
    }  # fmt: skip
    plan = house(
        {"a": circuit([1]), "b": circuit([3]), "c": circuit([5], "room")},
        {
            "base": load("a", steady(watts)),
            "beside": load("b", steady(60.0)),
            "room": load("c", steady(30.0)),
        },
        station=station,
        outage={"length_s": 48 * 3600.0, "restore": "all_at_once"},
        strategy=more.get("strategy", {}),
    )
    if kind == "engine_on":
        plan["schema_version"] = 2
        plan["generators"] = {"g": {"name": "g", "rated_w": 2000.0, "auto_start": True,
                                    "receptacles": {"out": {"kind": "5-20", "rating_a": 20.0}}}}  # fmt: skip
        feed = plan["feeds"]["feed"]
        cords = feed.pop("cords")
        source = {"kind": "station", "id": feed.pop("source_id"), "outlet": feed.pop("receptacle_id")}
        engine = {"kind": "generator", "id": "g", "outlet": "out"}
        to = {"end": "input", "station_id": "unit", "input_id": "ac", "setting_w": 500.0}
        plan["leads"] = {
            "house": {"source": source, "cords": cords, "to": {"end": "feed", "feed_id": "feed"}},
            "charge": {"source": engine, "cords": cords, "to": to},
        }
    return plan


def first(result: RunResult, kind: str) -> float | None:
    return next((event.t_s for event in result.events if event.kind == kind), None)


def coincidences(kind: str) -> Iterator[tuple[float, Json]]:
    """Plans in which something is switched just as a level is met, and when it is met."""
    for watts, wh, efficiency in product((90.0, 100.0, 250.0, 333.0), (500.0, 1000.0, 3000.0), (1.0, 0.9)):
        plan = plan_with(kind, watts, wh, efficiency)
        met_s = first(run_outage(read_plan(plan)), kind)
        assert met_s is not None
        for beside_s in BESIDE_S:
            other = copy.deepcopy(plan)
            act = {"room": "loads", "part_id": "beside", "turn": "off", "at_s": met_s + beside_s}
            other["outage"]["acts"] = {"switched": act}
            yield met_s, other


@pytest.mark.parametrize("kind", LEVELS)
def test_what_happens_beside_a_level_never_hides_it(kind: str) -> None:
    for met_s, plan in coincidences(kind):
        at_s = first(run_outage(read_plan(plan)), kind)
        assert at_s is not None
        assert abs(at_s - met_s) < 1e-4
