"""Commands: each does what it says, is refused by name, and is the same typed, as data and over the API."""

import json
from pathlib import Path

import pytest
from command_line import cedar
from fastapi.testclient import TestClient

from weary_cedar.core.commands import COMMANDS, USAGES, command_from, do, typed
from weary_cedar.core.decide.blocks import blocks_of
from weary_cedar.core.errors import InvalidInput, InvalidPlan, NotFound, WearyCedarError
from weary_cedar.core.plan import Plan, ToFeed, ToLoads, read_plan
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical


@pytest.fixture(scope="module")
def plan() -> Plan:
    return demo_plan("foothill")


def after(plan: Plan, *words: str) -> Plan:
    return do(plan, typed(words))


def test_every_command_has_its_usage() -> None:
    assert set(COMMANDS) == {usage.split()[0] for usage in USAGES}


def test_a_breaker_goes_with_what_is_on_it(plan: Plan) -> None:
    kept = plan.loads["fridge"].circuit_id
    assert kept is not None
    left = after(plan, "remove", f"circuits/{kept}")
    assert kept not in left.circuits
    assert not any(load.circuit_id == kept for load in left.loads.values())
    assert plan.loads["fridge"].circuit_id == kept


def test_a_station_goes_with_its_leads_and_its_feed(plan: Plan) -> None:
    left = after(plan, "remove", "stations/station")
    assert not left.stations
    assert not left.feeds
    assert not left.leads
    assert left.arrays["ground"].station_id is None
    assert left.arrays["ground"].input_id is None
    assert not left.outage.start_charge_percent
    without_engine = after(plan, "remove", "generators/inverter-2k")
    assert [rule.kind for rule in without_engine.strategy.rules if rule.kind == "engine"] == []


def test_names_marks_and_packs(plan: Plan) -> None:
    assert after(plan, "rename", "loads/fridge", "cold box").loads["fridge"].name == "cold box"
    assert after(plan, "rename", "circuits/office", "Study").circuits["office"].label == "Study"
    marked = after(plan, "mark", "off", "office", "laundry")
    assert {marked.circuits[key].mark for key in ("office", "laundry")} == {"off"}
    pack = next(iter(plan.stations["station"].packs))
    more = after(plan, "packs", "station", pack, "3")
    assert more.stations["station"].packs[pack].count == 3
    assert not after(plan, "packs", "station", pack, "0").stations["station"].packs


def test_another_station_in_the_place_of_one(plan: Plan) -> None:
    with pytest.raises(InvalidInput, match="/class_id"):
        after(plan, "swap", "station", "none-such")
    other = demo_plan("canal")
    hub = next(key for key, lead in other.leads.items() if isinstance(lead.to, ToFeed))
    assert hub in after(other, "rename", "stations/left", "One").leads


def test_plugged_in_and_fed_again() -> None:
    hut = demo_plan("hut")
    cords = next(key for key, lead in hut.leads.items() if isinstance(lead.to, ToLoads))
    on = next(key for key, load in hut.loads.items() if load.circuit_id is not None)
    there = after(hut, "plug", on, cords)
    end = there.leads[cords].to
    assert isinstance(end, ToLoads)
    assert on in end.load_ids
    off = after(there, "plug", on, "none")
    back = off.leads[cords].to
    assert isinstance(back, ToLoads)
    assert on not in back.load_ids
    house = demo_plan("foothill")
    feed_id = next(iter(house.feeds))
    again = after(house, "feed", feed_id, "generator/inverter-2k")
    assert len(again.leads) == len(house.leads) + 1
    lead = next(lead for key, lead in again.leads.items() if key not in house.leads)
    assert lead.to == ToFeed(feed_id=feed_id)
    assert lead.source.kind == "generator"


def test_a_circuits_breaker_becomes_that_of_an_inlet(plan: Plan) -> None:
    circuit = plan.circuits["dryer"]
    made = after(plan, "inlet", "dryer")
    (key,) = set(made.feeds) - set(plan.feeds)
    feed = made.feeds[key]
    assert (feed.panel_id, feed.breaker_spaces, feed.breaker_a) == (
        circuit.panel_id, circuit.spaces, circuit.rated_a,
    )  # fmt: skip
    assert "dryer" not in made.circuits
    assert not any(load.circuit_id == "dryer" for load in made.loads.values())


def test_a_lead_ends_at_appliances_instead_of_a_feed(plan: Plan) -> None:
    """The feed goes with its last lead and stays with another; acts about the lead stay."""
    unplugged = {"at_s": 7200.0, "room": "leads", "part_id": "inlet", "turn": "off"}
    told = {**canonical(plan), "outage": {**canonical(plan)["outage"], "acts": {"pulled": unplugged}}}
    held = read_plan(told)
    alone = after(held, "cords", "inlet")
    lead, feed = alone.leads["inlet"], plan.feeds["inlet"]
    assert isinstance(lead.to, ToLoads)
    assert (lead.to.plug, lead.to.plug_a, lead.to.circuit_ids) == (feed.inlet, feed.inlet_a, feed.circuit_ids)
    assert lead.cords == plan.leads["inlet"].cords
    assert alone.feeds == {}
    assert list(alone.outage.acts) == ["pulled"]
    two = after(plan, "feed", "inlet", "generator/inverter-2k")
    assert list(after(two, "cords", "inlet").feeds) == ["inlet"]


def test_a_block_is_moved_and_taken_away() -> None:
    orchard = demo_plan("orchard")
    block = next(b for b in blocks_of(orchard) if b.lane == "utility")
    moved = after(orchard, "move", block.key, str(block.at_s + 3600))
    key = block.key.rpartition("/")[2]
    assert moved.outage.grid[key].at_s == block.at_s + 3600
    assert key not in after(orchard, "unblock", block.key).outage.grid


@pytest.mark.parametrize(
    ("words", "error", "said"),
    [
        (["remove", "loads/none"], NotFound, "/part"),
        (["remove", "fridge"], InvalidInput, "such as loads/fridge"),
        (["remove"], InvalidInput, "written as: remove ROOM/ID"),
        (["remove", "loads/fridge", "now"], InvalidInput, "written as: remove ROOM/ID"),
        (["explode"], InvalidInput, "one of remove"),
        (["mark", "sometimes", "office"], InvalidInput, "/mark"),
        (["mark", "keep"], InvalidInput, "written as: mark"),
        (["packs", "station", "none", "2"], NotFound, "/pack_id"),
        (["packs", "station", "expansion", "many"], InvalidInput, "/count"),
        (["plug", "fridge", "inlet"], InvalidInput, "ends at appliances"),
        (["feed", "inlet", "station/none"], InvalidInput, "/source"),
        (["inlet", "none"], NotFound, "/circuit_id"),
        (["cords", "none"], InvalidInput, "ends at a feed"),
        (["move", "/none", "3600"], NotFound, "/key"),
    ],
)
def test_what_cannot_be_done_says_what_would_be_right(
    plan: Plan, words: list[str], error: type[WearyCedarError], said: str
) -> None:
    with pytest.raises(error) as refused:
        after(plan, *words)
    told = f"{refused.value.detail} {[str(problem) for problem in refused.value.problems]}"
    assert said in told
    with pytest.raises((InvalidInput, InvalidPlan)):
        command_from({"command": "remove", "part": "loads/fridge", "more": 1})


def test_a_command_on_the_command_line(tmp_path: Path, plan: Plan) -> None:
    file, out = tmp_path / "plan.json", tmp_path / "after.json"
    file.write_text(json.dumps(canonical(plan)))
    done = cedar("do", str(file), "remove", "loads/fridge", "--out", str(out))
    assert done.returncode == 0
    assert "fridge" not in json.loads(out.read_text())["loads"]
    told = json.loads(cedar("do", str(file), "mark", "off", "office", "--json").stdout)
    assert told["patch"] == {"circuits": {"office": {"mark": "off"}}}
    assert "mark" in told["summary"]
    assert told["plan"]["circuits"]["office"]["mark"] == "off"
    wrong = cedar("do", str(file), "remove", "loads/none")
    assert wrong.returncode == 2
    assert "/part" in wrong.stderr
    assert wrong.stdout == ""


def test_a_command_over_the_api_is_one_edit(client: TestClient) -> None:
    at = "/api/plans/foothill-house"
    base = client.get(at).headers["ETag"]
    told = {"command": "remove", "part": "stations/station"}
    done = client.post(f"{at}/commands", json=told, headers={"If-Match": base})
    assert done.status_code == 200
    assert done.json()["plan"]["stations"] == {}
    assert done.json()["can_undo"]
    assert (
        client.post(f"{at}/commands", json={"command": "fly"}, headers={"If-Match": base}).status_code == 422
    )
    back = client.post(f"{at}/undo", headers={"If-Match": done.headers["ETag"]})
    assert back.json()["plan"]["stations"]
