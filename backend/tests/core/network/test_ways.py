"""Who reaches what: ways, turns, and circuits that are reached but get no voltage."""

import pytest
from builders import Json, circuit, house, load, steady

from weary_cedar.core.network import ACROSS, LEG_A, LEG_B, Network
from weary_cedar.core.plan import read_plan


def plan(**feeds: Json) -> Network:
    circuits = {"a": circuit([1]), "b": circuit([3]), "x": circuit([5, 7]), "z": circuit([9], "off")}
    document = house(circuits, {key: load(key, steady(10)) for key in circuits})
    own = document["feeds"]["feed"]
    document["generators"] = {
        "set": {"name": "set", "rated_w": 4000.0, "output": "120/240", "receptacles": own_outlets()},
    }
    document["feeds"] = {key: {**own, **part} for key, part in feeds.items()}
    return Network(read_plan(document))


def own_outlets() -> Json:
    return {"out": {"kind": "L14-30", "rating_a": 30.0}}


CORDS: Json = {"kind": "cords", "breaker_spaces": [], "circuit_ids": ["a"]}


def test_legs_at_the_source() -> None:
    network = plan(feed={})
    assert network.way("feed").circuits == {"a": LEG_A, "b": LEG_B, "x": ACROSS}
    assert network.carried == {"a", "b", "x"}
    bridged = plan(feed={"kind": "bridged"}).way("feed")
    assert (bridged.circuits, bridged.dead) == ({"a": LEG_A, "b": LEG_A}, ("x",))


def test_feeds_to_the_same_circuits_take_turns_station_first() -> None:
    """Whatever they are called: an engine named before a station still comes after it."""
    network = plan(**{"a-engine": {"source_id": "set"}, "b-station": {}})
    (turn,) = network.turns
    assert [way.lead_id for way in turn.ways] == ["b-station", "a-engine"]
    assert network.main is not None
    assert network.main.lead_id == "b-station"


def test_a_wired_feed_has_its_circuits_alone() -> None:
    network = plan(cord=CORDS, inlet={})
    assert [set(turn.branches) for turn in network.turns] == [{"a"}, {"b", "x"}]
    feeding = network.feeding("a")
    assert feeding is not None
    assert feeding.lead_id == "cord"


@pytest.mark.parametrize("kind", ["no_transfer", "receptacle_backfeed"])
def test_what_can_kill_is_refused(kind: str) -> None:
    spaces: Json = {"breaker_spaces": []} if kind == "receptacle_backfeed" else {}
    network = plan(feed={"kind": kind, **spaces})
    assert network.running == ()
    assert "can kill" in network.way("feed").why_not
