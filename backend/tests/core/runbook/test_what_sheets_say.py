"""What a sheet says: bands as displays show them, words that fit the feed, lists, searches to a cause."""

import io
import math
from collections.abc import Iterator

import pytest
from any_house import any_house
from builders import Json, circuit, cycling, house, load, steady
from check_plans import merged
from orders import cords, document, furnace, with_feed
from pypdf import PdfReader
from sheet_houses import PLANS, sheets
from whole_houses import HOUSE, KIT, UNIT

from weary_cedar.core.plan import Plan, read_plan, upgraded
from weary_cedar.core.plan.merge import apply_patch
from weary_cedar.core.runbook.sheet import Answer, Sheet, Step, folded, told
from weary_cedar.core.runbook.sheets import sheets_of
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.sheets_pdf import sheets_pdf

ALL = [*PLANS.values(), *(read_plan(any_house(seed)) for seed in range(4)), with_feed(), cords()]


def of_kind(plan: Plan, kind: str) -> list[Sheet]:
    return [sheet for sheet in sheets_of(plan, []) if sheet.kind == kind]


def words_of(sheet: Sheet) -> str:
    return "\n".join(told(sheet))


# -------------------------------------------------------------------- readings


def test_watts_are_read_where_the_display_is_within_what_may_be_on() -> None:
    """Worked by hand: 3 % and 10 W for the display, doubts by origin as squares, lamps that are switched on."""
    loads = {
        "internet": load("net", steady(40.0), role="communication", origin="measured", power_factor=0.5),
        "lamp-a": load("hall", steady(60.0), role="light", origin="plate"),
        "lamp-b": load("stair", steady(30.0), role="light", origin="plate"),
        "tv": load("den", steady(100.0), name="Television", origin="plate"),
        "pump": load("well", cycling(800.0, 0.1, 900.0), origin="plate"),
    }
    # on leg A: 1, 5 and 9, on leg B: 3; the pump is across both
    spaces = {"net": [1], "stair": [3], "den": [5], "hall": [9], "well": [13, 15]}
    plan = read_plan(upgraded(house({key: circuit(own) for key, own in spaces.items()}, loads)))
    (over,) = of_kind(plan, "change_over")
    last = [step.readings for step in over.steps if step.line][-1]
    assert [(item.where, item.unit, item.optional) for item in last] == [
        ("output of unit, on its display", "W", False), ("leg A, on a meter", "W", True),
        ("leg B, on a meter", "W", True),
    ]  # fmt: skip
    most = 40 + 60 + 30 + 100 + 800 + math.hypot(2, 15, 7.5, 25, 200)
    assert last[0].high == math.ceil(most * 1.03 + 10)
    assert last[0].low == math.floor((40 - 2) * 0.97 - 10)
    assert last[1].high == math.ceil((40 + 60 + 100 + 400 + math.hypot(2, 15, 25, 100)) * 1.03 + 10)
    for step in over.steps:
        for reading in step.readings:
            assert reading.usual is None or reading.low <= reading.usual <= reading.high
            assert reading.unit != "W" or reading.high - reading.low >= 10


def test_each_unit_of_a_pair_shows_its_own_leg_and_an_engine_need_not() -> None:
    (over,) = of_kind(PLANS["a linked pair"], "change_over")
    read = next(step.readings for step in over.steps if step.line)
    assert [item.where for item in read] == [
        "leg A, on the display of l",
        "leg B, on the display of r",
    ]
    assert not any(item.optional for item in read)
    engine = next(s for s in sheets_of(PLANS["an engine and a station"], []) if s.key == "change-over/swap")
    assert all(item.optional for step in engine.steps if step.line for item in step.readings)
    hertz = [r for step in engine.steps for r in step.readings if r.unit == "Hz"]
    assert [(r.low, r.high) for r in hertz] == [(57, 63)]


# -------------------------------------------------------------------- words that fit the feed


FORBIDDEN = {
    "cords": ("breaker of", "feed breaker", "interlock", "main off", "transfer switch"),
    "a furnace": ("interlock", "feed breaker", "main off"),
    "one hot on six handles": ("interlock",),
    "hut": ("interlock", "feed breaker", "main off", "twisted", "wide blade"),
}


@pytest.mark.parametrize("name", FORBIDDEN)
def test_no_sheet_speaks_of_what_the_feed_has_not(name: str) -> None:
    plan = cords() if name == "cords" else PLANS[name]
    for sheet in sheets_of(plan, []):
        if sheet.kind in ("before", "find_out"):
            continue
        for words in FORBIDDEN[name]:
            assert words not in words_of(sheet).casefold(), (sheet.key, words)


@pytest.mark.parametrize(
    "name", ["interlock", "a sub-panel", "foothill", "orchard", "230 V", "a furnace", "canal"]
)
def test_what_is_parted_is_proven_dead_before_anything_is_plugged_in(name: str) -> None:
    for sheet in of_kind(PLANS[name], "change_over"):
        actions = [step.action for step in sheet.steps]
        (proof, *_) = [n for n, words in enumerate(actions) if words.startswith("Prove ")]
        feeding = PLANS[name].hookups
        acts = [act.what.split("/") for step in sheet.steps[:proof] for act in step.acts]
        moved = [kind for kind, key, *_ in acts if kind not in ("source_end", "load_end") or key in feeding]
        assert not {"load_end", "output", "feed_breaker"} & set(moved)
        assert {"main", "transfer", "handle"} & set(moved)
        assert all(read.high == 5 for read in sheet.steps[proof].readings)


def burning(run_w: float) -> Json:
    """A furnace on a switch of its own."""
    spec = {"kind": "thermostatic", "output_w": 15_000.0, "run_w": run_w,
            "before": [{"name": "inducer", "watts": 90.0, "seconds": 30.0}]}  # fmt: skip
    document = PLANS["a furnace"].model_dump(mode="json", exclude_none=True)
    document["loads"]["furnace"] |= {"behaviour": spec, "origin": "measured"}
    return document


def test_by_cord_a_burner_has_thermostat_polarity_and_flame() -> None:
    hut = PLANS["hut"]
    (over,) = of_kind(hut, "change_over")
    actions = [step.action for step in over.steps]
    rest = next(
        n for n, words in enumerate(actions) if words.startswith("Turn the thermostat of bottled-gas boiler")
    )
    cord = next(n for n, words in enumerate(actions) if words.startswith("Test the cord, out at both ends"))
    (on,) = [n for n, words in enumerate(actions) if words.endswith("then its thermostat up")]
    assert rest < cord < on
    assert "a flame that holds for a minute" in over.steps[on].see
    assert over.steps[cord].readings[0].where == "neutral pin to neutral hole"
    switch = of_kind(read_plan(burning(500.0)), "change_over")[0]
    assert any(step.action.startswith("Turn the thermostat of ") for step in switch.steps)
    assert not any("thermostat" in step.action for step in of_kind(furnace(), "change_over")[0].steps)


def test_a_breaker_is_looked_for_at_its_own_panel() -> None:
    for sheet in sheets_of(PLANS["a sub-panel"], []):
        for step in sheet.steps:
            if step.list_head == "Turn on one at a time":
                key = step.acts[0].what.partition("/")[2]
                panel = PLANS["a sub-panel"].panels[PLANS["a sub-panel"].circuits[key].panel_id]
                assert step.where == f"at {panel.name}"


# -------------------------------------------------------------------- charges


@pytest.mark.parametrize(("shows", "summed"), [("sum", True), ("each", False), ("unknown", False)])
def test_a_display_that_shows_the_sum_of_its_inputs_is_read_without_the_sun(shows: str, summed: bool) -> None:
    patch = {"stations": {"station": {"display_inputs": shows}}}
    (charge,) = of_kind(read_plan(apply_patch(PLANS["foothill"].model_dump(mode="json"), patch)), "charge")
    wheres = [reading.where for step in charge.steps for reading in step.readings if reading.unit == "W"]
    assert any("it shows all inputs together, take the sun off" in where for where in wheres) == summed


def test_a_charge_is_ended_dead_from_the_source_on_and_its_engine_cooled() -> None:
    plan = PLANS["foothill"]
    (end,) = of_kind(plan, "end_charge")
    assert [f"{act.what} {act.to}" for act in end.acts] == [
        "output/generator/inverter-2k off", "engine/inverter-2k off",
        "source_end/from-generator out", "load_end/from-generator out",
    ]  # fmt: skip
    assert end.acts[1].wait_s >= 180
    assert end.begins["engine/inverter-2k"] == "on"
    (charge,) = of_kind(plan, "charge")
    assert any("End the charge" in words for words in charge.next)


@pytest.mark.parametrize(
    ("kit", "out"), [("refused", True), ("drops_output", True), ("unknown", True), ("allowed", False)]
)
def test_a_unit_is_taken_out_of_a_kit_that_takes_no_charge(kit: str, out: bool) -> None:
    pair = merged(KIT, {
        "links": {"pair": {"ac_charging": kit}},
        "stations": {"l": {"ac_inputs": {"wall": {"most_w": 1000.0}}}},
        "leads": {"charge": {"source": {"kind": "circuit", "id": "router"}, "to": {
            "end": "input", "station_id": "l", "input_id": "wall"}}},
    })  # fmt: skip
    (charge,) = of_kind(read_plan(apply_patch(HOUSE, pair)), "charge")
    actions = [step.action for step in charge.steps]
    assert any(words.startswith("Take l out of the kit") for words in actions) == out
    if out:
        assert actions.index("Make sure that both outputs are off") < actions.index("Plug the cord into l")


def test_every_engine_is_outdoors_with_an_alarm_a_car_s_too() -> None:
    """A sheet by which an engine starts, or may, says so before its output is on."""
    burning_cars = 0
    for plan in ALL:
        cars = {key for key, car in plan.vehicles.items() if car.kind != "battery"}
        engines = {f"output/generator/{key}" for key in plan.generators}
        engines |= {f"output/vehicle/{key}" for key in cars}
        for sheet in sheets_of(plan, []):
            for number, step in enumerate(sheet.steps):
                if any(act.what in engines and act.to == "on" for act in step.acts):
                    said = [before.see for before in sheet.steps[: number + 1]]
                    assert any("alarm" in see for see in said), (sheet.key, step.action)
                    assert any(before.where.startswith("outdoors") for before in sheet.steps[: number + 1])
                    burning_cars += any(act.what.startswith("output/vehicle") for act in step.acts)
    assert burning_cars


def test_between_two_cuts_an_appliance_leaves_the_utility_before_it_is_proven_dead() -> None:
    """Its switch rests on off, with the utility up; what has a compressor waits its five minutes."""
    made = document()
    switch: Json = {
        "kind": "appliance_switch",
        "circuit_ids": ["fridge"],
        "breaker_spaces": [],
        "inlet": "5-15",
    }
    made["feeds"]["feed"] |= switch
    made["outage"]["grid"] = {"hour": {"at_s": 7_200.0, "for_s": 3_600.0}}
    (cuts,) = of_kind(read_plan(made), "between_cuts")
    assert not cuts.held_by
    actions = [step.action for step in cuts.steps]
    off = max(n for n, words in enumerate(actions) if words == "Move the switch to off")
    dead = next(n for n, words in enumerate(actions) if words.startswith("Prove it dead"))
    over = next(n for n, words in enumerate(actions) if words.startswith("Move the switch to the source"))
    assert off < dead < over
    assert sum(act.wait_s for step in cuts.steps[dead : over + 1] for act in step.acts) >= 300


# -------------------------------------------------------------------- lists


def forty() -> Plan:
    """A panel of forty circuits that all stay on."""
    circuits = {f"c{n:02}": circuit([n + 3], label=f"Bedroom {n} and its outlets") for n in range(2, 42)}
    circuits["c02"] = circuit([5], label="Hall lights")
    loads = {
        f"l{n:02}": load(f"c{n:02}", steady(20.0), role="light" if n < 4 else None) for n in range(2, 42)
    }
    made = house(circuits, loads)
    made["panels"]["main"]["spaces"] = 48
    made = upgraded(made)
    made["feeds"]["feed"]["breaker_spaces"] = [2, 4]
    return read_plan(made)


def test_a_house_of_forty_circuits_changes_over_on_two_pages() -> None:
    plan = forty()
    for kind in ("change_over", "return"):
        (sheet,) = of_kind(plan, kind)
        on = [step for step in sheet.steps if step.list_head]
        assert len(on) == 40
        lists = [together for _, together in folded(sheet.steps) if len(together) > 1]
        assert sum(map(len, lists)) == 40
        assert len(lists) == 2  # the lamps, which are read under load, and all others
        paper = PdfReader(io.BytesIO(sheets_pdf(plan, [sheet], Edition())))
        assert len(paper.pages) <= 2
        text = " ".join(page.extract_text() for page in paper.pages)
        assert all(circuit.label in text for circuit in plan.circuits.values())
        assert words_of(sheet).count("If not: ") < len(sheet.steps) - 36


def test_steps_stand_in_one_list_only_where_they_share_all_but_their_line() -> None:
    one = Step(action="a", where="w", see="s", if_not="n", list_head="h", line="1")
    same, elsewhere = one.model_copy(update={"line": "2"}), one.model_copy(update={"where": "x"})
    alone = one.model_copy(update={"list_head": ""})
    numbers = [(number, len(together)) for number, together in folded([one, same, elsewhere, alone, alone])]
    assert numbers == [(1, 2), (3, 1), (4, 1), (5, 1)]


# -------------------------------------------------------------------- searches


def searches() -> Iterator[tuple[Plan, Sheet]]:
    for plan in ALL:
        for sheet in of_kind(plan, "find_out"):
            yield plan, sheet


def ends_of(sheet: Sheet) -> list[Answer]:
    return [answer for step in sheet.steps for answer in step.answers if answer.end]


def test_every_search_ends_whatever_is_seen() -> None:
    """Each answer leads to a later look or to an end; each look is reached; readings leave no gap."""
    seen = 0
    for _, sheet in searches():
        reached = {1}
        for number, step in enumerate(sheet.steps, 1):
            assert number in reached, (sheet.key, number)
            assert len(step.answers) >= 2
            assert len({answer.when for answer in step.answers}) == len(step.answers)
            for answer in step.answers:
                assert (answer.to is None) != (answer.end is None)
                if answer.to is not None:
                    assert number < answer.to <= len(sheet.steps)
                    reached.add(answer.to)
            by_reading = [
                answer for answer in step.answers if answer.low is not None or answer.high is not None
            ]
            if by_reading:
                assert step.readings
                assert by_reading == step.answers
                assert [answer.low for answer in by_reading][1:] == [answer.high for answer in by_reading][
                    :-1
                ]
                assert (by_reading[0].low, by_reading[-1].high) == (None, None)
        for answer in ends_of(sheet):
            assert answer.end is not None
            assert answer.end.cause
            assert answer.end.do
        assert not sheet.acts
        seen += 1
    assert seen > 60


def test_searches_are_there_for_what_the_plan_has_and_only_that() -> None:
    def keys(plan: Plan) -> set[str]:
        return {sheet.key.split("/")[1] for sheet in of_kind(plan, "find_out")}

    every = {"open-ground", "does-not-hold"}
    legs = {"uneven", "dead-leg"}
    assert keys(PLANS["foothill"]) == every | legs | {
        "start-trips", "went-off", "charging-stops", "locks-out", "no-flame"}  # fmt: skip
    assert keys(PLANS["hut"]) == every | {
        "start-trips", "went-off", "charging-stops", "locks-out", "no-flame"}  # fmt: skip
    assert not legs & keys(PLANS["one hot on six handles"])
    assert "went-off" not in {
        sheet.key.split("/")[1]
        for sheet in of_kind(PLANS["an engine and a station"], "find_out")
        if sheet.key.endswith("/swap")
    }
    (trial,) = of_kind(PLANS["hut"], "trial")
    assert trial.key == "trial/cords/boiler"


def gone_through(sheet: Sheet, *words: str) -> Answer:
    """Where answers that begin with these words lead, one after the other."""
    step = sheet.steps[0]
    for number, begins in enumerate(words):
        answer = next(answer for answer in step.answers if answer.when.startswith(begins))
        if number == len(words) - 1:
            return answer
        assert answer.to is not None
        step = sheet.steps[answer.to - 1]
    raise AssertionError(words)


def test_causes_that_people_meet_are_found() -> None:
    found = {sheet.key: sheet for sheet in of_kind(PLANS["foothill"], "find_out")}
    lost = gone_through(found["find-out/uneven/inlet"], "It is off", "Both", "Next", "All").end
    assert lost
    assert (lost.stop, "neutral is open" in lost.cause) == (True, True)
    bonds = gone_through(found["find-out/does-not-hold/inlet"], "It holds", "It holds", "It trips").end
    assert bonds
    assert "bonded source and the house’s own bond" in bonds.cause
    idle = gone_through(found["find-out/went-off/inlet"], "More", "Nothing", "Next to nothing").end
    assert idle
    assert "idle cut-out" in idle.cause
    flame = gone_through(found["find-out/locks-out/inlet/furnace"], "Flame", "In between", "Next", "More").end
    assert flame
    assert (flame.stop, "floats" in flame.cause) == (True, True)
    gas = gone_through(found["find-out/no-flame/inlet/furnace"], "Gas").end
    assert gas
    assert "everyone out" in gas.do
    pump = gone_through(found["find-out/start-trips/inlet"], "Overload", "Up to", "20 %", "It trips").end
    assert pump
    assert "starts with 5,400 VA by the plan" in pump.cause
    by_cord = {s.key: s for s in of_kind(PLANS["hut"], "find_out")}["find-out/open-ground/cords"]
    sound = gone_through(by_cord, "Next", "More").end
    assert sound
    assert (sound.stop, "No fault by itself" in sound.cause) == (False, True)


def test_what_is_set_against_the_source_in_a_trial() -> None:
    document = burning(5_000.0)
    (trial,) = of_kind(read_plan(document), "trial")
    stages = {r.where: r for step in trial.steps for r in step.readings if r.unit == "W"}
    assert {"inducer, on the utility", "while it heats, on the source"} <= set(stages)
    over = stages["while it heats, on the source"]
    assert "the source carries" in over.if_high
    assert over.high < 5_000  # one leg of the source carries less than the stage takes
    held = next(
        sheet
        for sheet in sheets(read_plan(apply_patch(document, {"stations": {"unit": {"neutral": "unknown"}}})))
        if sheet.kind == "trial"
    )
    assert held.held_by


def test_a_search_says_what_forbids_to_energise() -> None:
    document: Json = merged(HOUSE, merged(UNIT, {"stations": {"unit": {"neutral": "unknown"}}}))
    for sheet in sheets(read_plan(document)):
        if sheet.kind == "find_out":
            assert sheet.notes[0].startswith("Only look, turn nothing on: ")


def test_lines_of_the_command_line_name_where_each_answer_leads() -> None:
    (_, sheet) = next(searches())
    lines = words_of(sheet)
    for step in sheet.steps:
        for answer in step.answers:
            wanted = f"go to {answer.to}" if answer.to else answer.end.cause if answer.end else ""
            assert f"{answer.when}: " in lines
            assert wanted in lines
