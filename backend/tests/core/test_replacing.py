"""Another station in the place of one: the feed, the charger and the sun stay where they are."""

from typing import Any

import pytest
from check_plans import PLANS
from whole_houses import HOUSE, KIT

from weary_cedar.core.deeds import deeds
from weary_cedar.core.errors import InvalidInput, NotFound
from weary_cedar.core.gear import station_classes
from weary_cedar.core.inventory import inventory
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.replacing import with_other_station
from weary_cedar.demo import DEMOS, demo_plan

CLASSES = {item.class_id: item.station for item in station_classes()}


def replaced(plan: Plan, station_id: str, class_id: str) -> Plan:
    after = with_other_station(plan, station_id, CLASSES[class_id])
    return read_plan(after.model_dump(mode="json", exclude_none=True))


@pytest.mark.parametrize("class_id", CLASSES)
@pytest.mark.parametrize("name", DEMOS)
def test_whatever_comes_stays_plugged(name: str, class_id: str) -> None:
    """Every demo, every class: a whole plan with the same leads, none of which begins or ends nowhere."""
    plan = demo_plan(name)
    for key in plan.stations:
        linked = any(key in (link.leg_a, link.leg_b) for link in plan.links.values())
        if linked and CLASSES[class_id].output != plan.stations[key].output:
            with pytest.raises(InvalidInput, match="linked pair"):
                replaced(plan, key, class_id)
            continue
        after = replaced(plan, key, class_id)
        assert set(after.leads) == set(plan.leads)
        assert after.stations[key].place_id == plan.stations[key].place_id
        assert all(recharge.setting_w > 0 for recharge in after.recharges.values())


def test_the_most_alike_outlet_and_input_are_taken() -> None:
    plan = read_plan(PLANS["foothill"])
    after = replaced(plan, "station", "split-7000")
    assert after.outlet(after.hookups["inlet"]).kind == "L14-30"
    assert after.recharges["from-generator"].input_id == "wall-120"
    assert (after.arrays["ground"].station_id, after.arrays["ground"].input_id) == ("station", "sun")
    with pytest.raises(NotFound):
        with_other_station(plan, "gone", CLASSES["mini-300"])
    with pytest.raises(InvalidInput, match="linked pair"):
        with_other_station(read_plan(apply_patch(HOUSE, KIT)), "l", CLASSES["split-6000"])


def test_what_each_part_does_is_told_from_the_run() -> None:
    plan = demo_plan("foothill")
    run = run_outage(plan)
    told: Any = deeds(plan, run)
    assert "a day" in told["stations", "station"]
    assert "lowest" in told["stations", "station"]
    assert told["arrays", "ground"].startswith("the sun gives")
    assert told["generators", "inverter-2k"].startswith("runs ")
    assert "gal a day" in told["generators", "inverter-2k"]
    assert deeds(demo_plan("canal"), run_outage(demo_plan("canal")))["vehicles", "van"].startswith("gives ")
    items = inventory(plan, run).items
    assert sum(bool(item.does) for item in items) == 3, "a pack says nothing of its own"
