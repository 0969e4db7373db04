"""What an act is like: starts, lamps, volts and trips against hand figures; never a word of what is not."""

import pytest
from any_house import any_house
from drills import by_hints, drill, of_demo

from weary_cedar.core.drill.answering import Answering
from weary_cedar.core.drill.exercise import sheet_of
from weary_cedar.core.drill.order import LOOK, UNEVEN, OrderPlay
from weary_cedar.core.network.carrying import Draw
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.runbook.house import House
from weary_cedar.core.runbook.steps import Move
from weary_cedar.demo import DEMOS, demo_plan


def foothill(**patch: object) -> Plan:
    return read_plan(apply_patch(demo_plan("foothill").model_dump(mode="json"), patch))


def changed_over(plan: Plan, *breakers: str) -> OrderPlay:
    """The source on, every breaker off; then some on, each with its own wait."""
    found = drill(plan)
    exercise = found.exercise("change-over/inlet")
    play = OrderPlay(plan, exercise, sheet_of(exercise, found.sheets))
    while play.house.at["output/station/station"] == "off" or play.house.at["feed_breaker/inlet"] == "off":
        act = play.hint()
        assert act is not None
        play.do(act)
    for key in breakers:
        play.do(Move(what=f"breaker/{key}", to="on", wait_s=400))
    return play


def test_a_start_is_told_with_its_volts_by_hand() -> None:
    """100 m of AWG 10 at 0.9989 Ω/1,000 ft, stranded a little more: 1,700 VA on one leg, out and back."""
    cord = [{"part": "cord", "name": "long", "length_m": 100.0, "awg": 10, "conductors": 4}]
    play = changed_over(foothill(leads={"inlet": {"cords": cord}}), "furnace")
    told = " · ".join(play.stand().answer)
    assert "Gas furnace: up to 1,700 VA for 0.8 s, if it starts now" in told
    dips = 120.0 - (1_700.0 / 120.0) * 2 * 100.0 * 0.9989 / 304.8
    volts = float(told.split("Lamps dim on leg B to ")[1].split(" V")[0])
    assert volts == pytest.approx(dips, abs=1.0)
    assert "gas furnace blower: a hum" in told


def test_short_leads_leave_lamps_as_they_are() -> None:
    assert "Lamps do not change" in changed_over(foothill(), "furnace").stand().answer


def test_too_much_trips_and_what_it_fed_is_dark(monkeypatch: pytest.MonkeyPatch) -> None:
    play = changed_over(foothill(), "hall")
    monkeypatch.setattr("weary_cedar.core.runbook.house.starting", lambda *_: Draw(30_000.0, 0.0, 2.0))
    play.do(Move(what="breaker/well", to="on", wait_s=400))
    stand = play.stand()
    assert stand.hazard is not None
    assert stand.hazard.code == "over_curve"
    assert stand.live == {}
    assert stand.at["output/station/station"] == "off"
    assert stand.answer[0] == "6 kW station switches its output off by itself: Hall and smoke alarms dark"
    assert stand.answer[1].startswith("Its display still shows the 12 VA of before for some seconds")


def test_what_cannot_be_done_or_hurts_is_not_told_as_if_it_had_been_done() -> None:
    play = changed_over(foothill())
    play.do(Move(what="main/main", to="on"))
    assert play.stand().impossible
    assert play.stand().answer == ()
    play.do(Move(what="source_end/inlet", to="out"))
    assert play.hazard is not None
    assert play.stand().answer == ()


@pytest.mark.parametrize("name", DEMOS)
def test_every_circuit_that_comes_on_or_goes_is_told(name: str) -> None:
    found = of_demo(name)
    for exercise in found.listing.exercises:
        if exercise.form != "order":
            continue
        play = OrderPlay(found.plan, exercise, sheet_of(exercise, found.sheets))
        for _ in range(200):
            before, act = dict(play.house.live), play.hint()
            if act is None or play.hazard is not None:
                break
            play.do(act)
            told = " ".join(play.stand().answer)
            for branch in before.keys() ^ play.house.live.keys():
                circuit = found.plan.circuits.get(branch)
                assert circuit is None or circuit.label in told or " more" in told, (exercise.key, act)
            assert act.what != LOOK or not told


@pytest.mark.parametrize("seed", range(1, 25, 3))
def test_volts_of_any_house_are_near_those_of_its_source(seed: int) -> None:
    plan = read_plan(any_house(seed))
    found = drill(plan)
    for exercise in found.listing.exercises:
        if exercise.form == "order":
            stand = by_hints(found, exercise).stand()
            assert stand.volts.keys() <= set(stand.live.values())
            for volts in stand.volts.values():
                assert 0.5 * plan.site.leg_volts < volts.a_v < 1.3 * plan.site.leg_volts
                assert (volts.b_v is None) == (not plan.site.split_phase)


def test_an_open_neutral_shares_the_volts_as_the_load_is_shared() -> None:
    """Three to one in load is one to three in volts of 240: 60 and 180 V; as usual with nothing on."""
    document = demo_plan("foothill").model_dump(mode="json")
    document["loads"] = {
        key: {
            "name": key, "circuit_id": circuit, "power_factor": 1.0,
            "behaviour": {"kind": "steady", "watts": watts},
        }
        for key, circuit, watts in (("a", "hall", 900.0), ("b", "freezer", 300.0))
    }  # fmt: skip
    document["strategy"]["rules"] = []
    plan = read_plan(document)
    found = drill(plan)
    exercise = found.exercise("open-neutral/inlet")
    play = OrderPlay(plan, exercise, sheet_of(exercise, found.sheets))
    assert play._uneven() == UNEVEN
    a, b = plan.circuit_legs("hall")[0], plan.circuit_legs("freezer")[0]
    assert {a, b} == {"A", "B"}
    play = changed_over(plan, "hall", "freezer")
    assert sorted(play._uneven()) == pytest.approx([60.0, 180.0])


def test_no_lead_no_volts() -> None:
    assert Answering.of(House(demo_plan("hut"))).volts() == {}


def test_a_lead_of_no_known_length_is_not_told_to_keep_its_volts() -> None:
    unsaid = [{"part": "cord", "awg": 10, "length_m": None}]
    bare = foothill(leads={"inlet": {"cords": unsaid}}, feeds={"inlet": {"wire": None}})
    play = changed_over(bare, "furnace")
    assert play.stand().volts == {}
    assert "Whether lamps dim is not known: no length of its lead is said" in play.stand().answer


def test_a_bus_is_joined_to_what_gives_even_with_every_breaker_off() -> None:
    stand = changed_over(foothill()).stand()
    assert stand.live == {}
    assert stand.buses == {"main": ("6 kW station",)}
    assert stand.hot == ("inlet",)
    found = of_demo("foothill")
    exercise = found.exercise("change-over/inlet")
    before = OrderPlay(found.plan, exercise, sheet_of(exercise, found.sheets)).stand()
    assert (before.buses, before.hot) == ({"main": ("the utility",)}, ())
