"""No source unjudged: plans fed by engines, by vehicles and by several cords are looked at like any other."""

from typing import Any

import pytest
from builders import Json, circuit, cycling, house, load, steady
from check_plans import merged
from whole_houses import BY_CORD, CHAIN, HOUSE, SMALL, cords, engine, inlet, lead

from weary_cedar.core.checks import Finding, findings_of
from weary_cedar.core.plan import read_plan, upgraded
from weary_cedar.core.plan.merge import apply_patch

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


#: The house on an engine alone, a station behind another one on cords, and a station by cord.
ENGINE: Json = {
    "generators": {"set": engine()},
    "feeds": {"inlet": inlet()},
    "leads": {"in": lead("generator", "set")},
}


def on_engine(**part: Any) -> Json:
    return merged(ENGINE, part)


def in_chain(**part: Any) -> Json:
    return merged(CHAIN, {"leads": {"chain": part}})


def by_cord(**part: Any) -> Json:
    return merged(SMALL, BY_CORD, {"leads": {"c": part}})


def watts(load_id: str, value: float) -> Json:
    return {"loads": {load_id: {"behaviour": {"watts": value}}}}


NO_GROUND: list[Json] = [{"source_end": "5-20", "load_end": "5-20", "rating_a": 20.0, "passes_ground": "no"}]
MISFIT: list[Json] = [{"source_end": "5-20", "load_end": "L5-30", "rating_a": 30.0}]
WELL_ON: Json = {"circuits": {"well": {"mark": "keep"}}}
AUTOMATIC: Json = on_engine(feeds={"inlet": inlet(kind="automatic", breaker_spaces=[])})
#: check, level, what triggers it where the source is an engine, stands in a chain, or feeds by cord.
ROWS: list[tuple[str, str, Json]] = [
    ("leg-over", "stop", on_engine(**watts("router", 3_700.0))),
    ("total-over", "stop", merged(on_engine(generators={"set": engine(rated_w=900.0, leg_w=900.0)}), watts("router", 700.0))),
    ("start-trip", "stop", merged(on_engine(generators={"set": engine(rated_w=2_000.0, starting_w=2_500.0)}), WELL_ON)),
    ("motor-sag", "caution", merged(on_engine(generators={"set": engine(rated_w=2_800.0)}), WELL_ON)),
    ("cord-drop", "caution", merged(on_engine(leads={"in": {"cords": [{"length_m": 60.0, "awg": 12}]}}), watts("router", 1_500.0))),
    ("cord-ampacity", "stop", merged(on_engine(leads={"in": {"cords": [{"length_m": 5.0, "awg": 16}]}}), watts("router", 1_500.0))),
    ("adapter-unprotected", "stop", on_engine(leads={"in": {"cords": [{"length_m": 5.0, "awg": 14}]}})),
    ("cord-conductors", "stop", on_engine(leads={"in": {"cords": [{"length_m": 5.0, "awg": 10, "conductors": 3}]}})),
    ("neutral-open", "stop", on_engine(feeds={"inlet": inlet(inlet="6-50", inlet_a=50.0)})),
    ("ground-missing", "stop", on_engine(feeds={"inlet": inlet(inlet="10-30")})),
    ("inlet-feed", "stop", on_engine(feeds={"inlet": inlet(inlet_a=20.0)})),
    ("continuous-80", "caution", merged(on_engine(), watts("router", 3_000.0), {"circuits": {"router": {"breaker_a": 40.0}}})),
    ("compressor-wait", "caution", merged(ENGINE, {"outage": {"changeover_after_s": 60.0}})),
    ("all-at-once", "caution", merged(on_engine(generators={"set": engine(rated_w=1_500.0)}), {"outage": {"restore": "all_at_once"}})),
    ("all-at-once", "caution", merged(on_engine(generators={"set": engine(rated_w=1_500.0)}), {"feeds": {"inlet": {"restore": "all_at_once"}}})),
    ("needs-no-gap", "caution", merged(ENGINE, {"loads": {"router": {"largest_gap_ms": 20.0}}})),
    ("auto-capacity", "stop", merged(AUTOMATIC, {"feeds": {"inlet": {"survey": {"load-management": "no"}}},
        "generators": {"set": {"rated_w": 1_000.0}}})),
    ("bond-plug", "stop", on_engine(leads={"in": {"bonding_plug": "yes"}})),
    ("bus-sum", "caution", merged(ENGINE, {"panels": {"main": {"bus_a": 25.0}}})),
    ("unattended", "caution", merged(on_engine(generators={"set": engine(tank_l=4.0, on_hand_l=4.0)}),
        {"outage": {"occupancy": {"gone": [{"at_s": 7_200.0, "for_s": 90_000.0}]}}})),
    ("receptacle-over", "stop", merged(CHAIN, {"leads": {"w": cords("warm", id="far")}, "loads": {"warm": {"name": "warm",
        "behaviour": {"kind": "steady", "watts": 2_000.0}}}})),
    ("cord-drop", "caution", in_chain(cords=[{"length_m": 40.0, "awg": 16}])),
    ("ground-missing", "stop", in_chain(adapters=NO_GROUND)),
    ("cord-conductors", "stop", in_chain(cords=[{"length_m": 5.0, "awg": 12, "conductors": 2}])),
    ("joint-misfit", "caution", in_chain(adapters=[{"source_end": "L5-30", "load_end": "5-15", "rating_a": 15.0}])),
    ("cord-joints", "note", in_chain(cords=[{"length_m": 5.0, "awg": 12}, {"length_m": 5.0, "awg": 12}])),
    ("continuous-80", "caution", merged(in_chain(to={"setting_w": 1_780.0}), {"stations": {"small": {"nameplate_wh": 20_000.0,
        "ac_inputs": {"wall": {"cap_a": 20.0, "most_w": 2_000.0}}}, "far": {"nameplate_wh": 40_000.0, "rated_va": 3_000.0,
        "receptacles": {"duplex": {"rating_a": 16.0}}}}, "outage": {"start_charge_percent": {"small": 5.0}}})),
    ("chain-not-full", "caution", merged(CHAIN, {"outage": {"start_charge_percent": {"small": 50.0}}})),
    ("total-over", "stop", merged(by_cord(), watts("router", 2_100.0))),
    ("start-trip", "stop", merged(by_cord(), {"loads": {"fridge": {"start": {"va": 9_000.0}}}})),
    ("motor-sag", "caution", merged(by_cord(), {"loads": {"fridge": {"locked_rotor_a": 25.0}}})),
    ("cord-ampacity", "stop", merged(by_cord(cords=[{"length_m": 5.0, "awg": 18}]), watts("router", 1_300.0))),
    ("cord-drop", "caution", merged(by_cord(cords=[{"length_m": 40.0, "awg": 16}]), watts("router", 900.0))),
    ("continuous-80", "caution", merged(by_cord(), watts("router", 1_950.0), {"stations": {"small": {"rated_va": 3_000.0,
        "nameplate_wh": 20_000.0}}})),
    ("joint-misfit", "caution", by_cord(adapters=MISFIT)),
    ("neutral-none", "caution", merged(SMALL, {"leads": {"c": cords("furnace")}})),
    ("idle-cutout", "caution", merged(SMALL, BY_CORD, {"leads": {"c": {"to": {"load_ids": ["fridge"]}}}, "stations": {"small": {
        "idle_cutout": {"threshold_w": 20.0, "after_s": 900.0}}}})),
    ("night-short", "caution", merged(SMALL, BY_CORD, {"outage": {"start_charge_percent": {"small": 40.0}}})),
]  # fmt: skip


@pytest.mark.parametrize(
    ("check_id", "level", "patch"), ROWS, ids=[f"{n}-{row[0]}" for n, row in enumerate(ROWS)]
)
def test_engines_chains_and_cords_are_judged_like_any_feed(check_id: str, level: str, patch: Json) -> None:
    hits = [f for f in findings_of(read_plan(apply_patch(HOUSE, patch))) if f.check_id == check_id]
    assert level in {finding.level for finding in hits}, hits
    assert not any(
        f.check_id == check_id for f in findings_of(read_plan(apply_patch(HOUSE, sound_of(patch))))
    )


def sound_of(patch: Json) -> Json:
    """The same kind of source with nothing wrong."""
    if "generators" in patch:
        return ENGINE
    return CHAIN if "far" in patch["stations"] else merged(SMALL, BY_CORD)
