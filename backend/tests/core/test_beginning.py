"""How plans begin."""

from datetime import datetime

import pytest

from weary_cedar.core import beginning
from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.gear import station_classes
from weary_cedar.core.library import appliances
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import read_plan
from weary_cedar.core.tables import source, table
from weary_cedar.formats.label_lines import read_labels

START = datetime(2026, 11, 2, 18, 0)


@pytest.mark.parametrize("chosen", [[room] for room in beginning.rooms()] + [beginning.rooms()])
def test_every_room_makes_a_whole_plan(chosen: list[str]) -> None:
    plan = beginning.plan_from_rooms("House", START, chosen)
    plan = read_plan(plan.model_dump(mode="json", exclude_none=True))
    assert plan.feeds
    assert {load.circuit_id for load in plan.loads.values()} == set(plan.circuits)
    kept = {plan.circuits[str(load.circuit_id)].mark for load in plan.loads.values()}
    assert run_outage(plan).verdict.status == ("cannot_judge" if "keep" not in kept else "does_not_last")


@pytest.mark.parametrize("chosen", [[], ["ballroom"]])
def test_unknown_rooms_are_refused(chosen: list[str]) -> None:
    with pytest.raises(InvalidInput, match="kitchen"):
        beginning.plan_from_rooms("House", START, chosen)


def test_the_feed_finds_its_place_among_typed_labels() -> None:
    full = "\n".join(f"{n} c{n} 20 A" for n in range(1, 25))
    for text, spaces in (("1 fridge 20 A", (2, 4)), ("2 fridge 20 A", (1, 3)), (full, None)):
        plan = beginning.plan_from_circuits("House", START, read_labels(text, "main"))
        read_plan(plan.model_dump(mode="json", exclude_none=True))
        assert [feed.breaker_spaces for feed in plan.feeds.values()] == ([spaces] if spaces else [])


def test_library_tables_are_whole() -> None:
    assert len(appliances()) >= 60
    assert all(item.load.origin == "library" and item.wh_day >= 0 for item in appliances())
    assert all(item.station.leg_limit_va <= item.station.rated_va for item in station_classes())
    for name in ("appliances", "fuels", "heaters", "heater_steps", "rooms", "stations", "motor_full_load"):
        for row in table(name):
            assert source(row["source_id"])["title"], (name, row)
