"""The exact run against a one-second fixed-step run: energies within 0.1 %, event times within 2 s.

The same model written a second time, in steps: it checks the closed forms of the run, not the model.
"""

import copy
from typing import Any

import pytest
from builders import circuit, cycling, house, job, load, steady

from outside.fixed_step import FixedStep
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.demo import demo_plan

Json = dict[str, Any]


def foothill() -> Json:
    """The demo without what the reference leaves out: defrosts, starts, all that recharges; 30 hours."""
    plan = demo_plan().model_dump(mode="json", exclude_none=True)
    for room in ("arrays", "generators"):
        plan[room] = {}
    plan["leads"].pop("from-generator")
    plan["loads"]["freezer"]["behaviour"] = cycling(125, 0.45, 3300)
    plan["strategy"]["rules"] = []
    plan["outage"]["length_s"] = 30 * 3600.0
    for item in plan["loads"].values():
        item.pop("start", None)
        item["behaviour"].pop("defrost", None)
        if item["behaviour"]["kind"] == "cycling":
            item["behaviour"]["phase"] = 0.35
    return plan


def crowded(shedding: str) -> Json:
    """More than leg A carries at times, with losses everywhere."""
    circuits = {
        "fridge": circuit([1], order=1),
        "heat": circuit([5], "room", order=9),
        "oven": circuit([9], order=4),
        "pump": circuit([13, 15], order=2),
        "lamp": circuit([3], order=3),
    }
    loads = {
        "fridge": load("fridge", cycling(300, 0.4, 1500), power_factor=0.8),
        "heat": load("heat", cycling(1500, 0.6, 3000)),
        "oven": load("oven", job("06:00:00", "08:00:00", (2000, 20), (900, 40), splittable=True)),
        "roast": load("oven", job("12:00:00", "13:00:00", (1700, 30))),
        "pump": load("pump", cycling(1100, 0.1, 2000), power_factor=0.7),
        "lamp": load("lamp", steady(60), power_factor=0.9),
    }
    station = {"nameplate_wh": 30_000.0, "inverter_efficiency": 0.9, "idle_w": 45.0, "cutoff_percent": 5.0}
    plan = house(
        circuits, loads, station=station, outage={"length_s": 36 * 3600.0, "changeover_after_s": 600.0}
    )
    plan["feeds"]["feed"]["cords"] = [{"length_m": 12.0, "awg": 10}]
    plan["strategy"] = {"shedding": shedding, "recovery_off": ["heat"], "reset_after_s": 1200.0}
    return plan


def rationed() -> Json:
    plan = copy.deepcopy(crowded("automatic"))
    plan["strategy"]["room_off_below_percent"] = 60.0
    plan["stations"]["unit"]["self_discharge_percent_per_week"] = 2.0
    return plan


PLANS = {
    "foothill": foothill(),
    "automatic": crowded("automatic"),
    "nobody": crowded("none"),
    "rationed": rationed(),
}


@pytest.mark.parametrize("name", PLANS)
def test_exact_run_against_fixed_step(name: str) -> None:
    plan = PLANS[name]
    exact = run_outage(read_plan(plan))
    reference = FixedStep(plan).run()
    assert exact.ledger is not None
    assert exact.ledger.stored_end_wh == pytest.approx(
        reference.stored_wh, abs=1e-3 * exact.ledger.stored_start_wh
    )
    total = sum(reference.served_wh.values())
    assert exact.ledger.loads_wh == pytest.approx(total, rel=1e-3)
    for key, share in exact.loads.items():
        assert share.served_wh == pytest.approx(reference.served_wh[key], rel=1e-3, abs=1e-3 * total / 4), key
    empties = [e.t_s for e in exact.events if e.kind == "empty"]
    assert empties == pytest.approx([] if reference.empty_s is None else [reference.empty_s], abs=2)
    trips = [e.t_s for e in exact.events if e.kind == "trip"]
    assert trips == pytest.approx(reference.trips_s, abs=2)
    sheds = [(e.t_s, key) for e in exact.events if e.kind == "shed" for key in e.loads]
    firsts = {key: t for t, key in reversed(reference.shed)}
    for key, t in {key: t for t, key in reversed(sheds)}.items():
        assert t == pytest.approx(firsts[key], abs=2), key


def test_the_plans_do_what_they_are_for() -> None:
    """Without these events the comparison would prove little."""
    found = {name: {e.kind for e in run_outage(read_plan(plan)).events} for name, plan in PLANS.items()}
    assert {"room_shed", "empty"} <= found["foothill"]
    assert {"shed", "back", "empty"} <= found["automatic"]
    assert {"over_limit", "trip", "reset"} <= found["nobody"]
    assert "room_shed" in found["rationed"]
