"""No source unjudged: plans fed by engines, by vehicles and by several cords are looked at like any other."""

import pytest
from builders import Json, circuit, cycling, house, load, steady

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.plan import read_plan, upgraded

HOUR_S = 3600.0


def stops(document: Json) -> dict[str, Finding]:
    found = findings_of(read_plan(document))
    return {f"{f.check_id}@{f.element.id}": f for f in found if f.level == "stop"}


def engine_alone(watts: float) -> Json:
    """A 9 kW set on a 30 A inlet is the only source."""
    made = house({"a": circuit([1]), "b": circuit([5, 7], breaker_a=50)}, {"a": load("a", steady(watts))})
    made["loads"]["b"] = load("b", steady(3 * watts))
    made["stations"] = {}
    outlet = {"out": {"kind": "L14-30", "rating_a": 30.0, "gfci": "no"}}
    made["generators"] = {
        "set": {"name": "set", "rated_w": 9_000.0, "output": "120/240", "receptacles": outlet, "tank_l": 20.0}
    }
    made["feeds"]["feed"]["source_id"] = "set"
    made["strategy"] = {"shedding": "none"}
    return made


def test_a_plan_fed_by_an_engine_alone_is_judged_whole() -> None:
    """2,500 W on leg A and half of 7,500 W: 52 A where 30 A are allowed; a third of it is fine."""
    found = stops(engine_alone(2_500.0))
    assert {"leg-over@feed", "total-over@feed", "receptacle-over@feed", "cord-ampacity@feed"} <= found.keys()
    assert found["receptacle-over@feed"].figures[0].value == pytest.approx(6_250 / 120)
    assert stops(engine_alone(800.0)) == {}


def camp(*watts: float, own_outlets: bool = False) -> Json:
    """A 2 kVA station without any panel: every appliance on a cord of its own."""
    made = upgraded(house({}, {}, outage={"length_s": 12 * HOUR_S}))
    made |= {"panels": {}, "circuits": {}, "feeds": {}}
    made["stations"]["unit"] |= {"output": "120", "rated_va": 2_000.0, "neutral": "bonded"}
    outlets = {key: {"kind": "5-20", "rating_a": 20.0, "gfci": "no"} for key in ("o0", "o1")}
    made["stations"]["unit"]["receptacles"] = outlets
    made["loads"] = {f"l{n}": {"name": f"heater {n}", "behaviour": steady(w)} for n, w in enumerate(watts)}
    made["leads"] = {
        f"l{n}": {
            "source": {"kind": "station", "id": "unit", "outlet": f"o{n if own_outlets else 0}"},
            "cords": [{"length_m": 5.0, "awg": 14}],
            "to": {"end": "loads", "load_ids": [f"l{n}"], "plug_a": 20.0},
        }
        for n, _ in enumerate(watts)
    }
    made["strategy"]["shedding"] = "none"
    return made


def test_cords_of_one_outlet_and_of_one_station_add_up() -> None:
    """Each of two is within its cord; both are over an outlet of 20 A and over 2 kVA."""
    both = stops(camp(1_500.0, 1_500.0))
    assert {"receptacle-over@l0", "total-over@unit"} <= both.keys()
    assert both["receptacle-over@l0"].figures[0].value == pytest.approx(25.0)
    apart = stops(camp(1_500.0, 1_500.0, own_outlets=True))
    assert "receptacle-over@l0" not in apart
    assert apart["total-over@unit"].figures[0].value == pytest.approx(3_000.0)
    assert stops(camp(900.0, 900.0)) == {}


def test_a_stop_of_the_run_shows_what_was_over() -> None:
    """600 W are kept, 2,000 W of room run beside them: the figures are those of the run."""
    made = camp(600.0, 2_000.0, own_outlets=True)
    made["loads"]["l1"]["mark"] = "room"
    made["loads"]["l1"]["behaviour"] = cycling(2_000.0, 0.5, 3_600.0, phase=0.0)
    made["stations"]["unit"]["rated_va"] = 2_500.0
    figures = stops(made)["total-over@unit"].figures
    assert figures[0].name == "drawn on 2 leads together at its worst, nobody shedding"
    assert figures[0].value > (figures[0].limit or 0.0)


def test_a_230_v_island_and_cords_have_words_of_their_own() -> None:
    from weary_cedar.core.feed_path import feed_paths
    from weary_cedar.demo import demo_plan

    by_cord = feed_paths(demo_plan("hut"))[0]
    assert by_cord.neutral_cell == "floats"
    assert "it floats" in by_cord.neutral_words
