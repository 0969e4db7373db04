"""The table of breakers: pasted lines, CSV and spreadsheets in; CSV and spreadsheets out and in again."""

import random
from datetime import date
from typing import Any

import pytest
from any_house import any_house
from builders import circuit, house, load, steady

from weary_cedar.core.breakers import usual_load
from weary_cedar.core.errors import InvalidInput, NotReadable
from weary_cedar.core.library import appliances, heaters
from weary_cedar.core.plan import Cycling, Plan, Steady, read_plan
from weary_cedar.core.tables import table
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.formats.breakers import table_as_csv, table_as_xlsx, table_of, written, xlsx_table
from weary_cedar.formats.breakers.lines import cells_of_line
from weary_cedar.workshop.beginnings import bare_house
from weary_cedar.workshop.breaker_tables import GivenTable, read_table, with_schedule, with_table

EMPTY = bare_house("split_phase_120_240")


def pasted(text: str, plan: Plan = EMPTY, *, usual: bool = False) -> Plan:
    """The plan with pasted lines, read again as a file would be."""
    found = with_table(plan, GivenTable(text=text, usual=usual))
    return read_plan(found.model_dump(mode="json", exclude_none=True))


def cells(plan: Plan, **changed: str) -> GivenTable:
    """The whole table of a plan, with some cells of its first row changed."""
    told = written(plan)
    rows = [[row.get(key, "") for key in told.columns] for _, row in told.rows]
    for key, cell in changed.items():
        rows[0][told.columns.index(key)] = cell
    return GivenTable(columns=list(told.columns), rows=rows)


def rich() -> Plan:
    circuits = {
        "a": circuit([1], "keep", 1, awg=12, protection="gfci", outlets=["sink, left", "hood"]),
        "b": circuit([5, 7], "room", 9, mm2=6.0, metal="aluminium", locked=True, length_m=12.3456),
        "c": circuit([9], half="upper", multiwire_partner="d", terminals_c=75, survey={"x": "no"}),
        "d": circuit([11], multiwire_partner="c", breaker_by_plate="yes"),
        "e": circuit([9], half="lower"),
    }
    for key, item in circuits.items():
        item["label"] = f"label; of “{key}”"
    lamps = {
        "x": load("a", steady(5), name="lamp"),
        "y": load("a", steady(7.25), name="fan", origin="measured"),
    }
    return read_plan(house(circuits, lamps))


@pytest.mark.parametrize("plan", [rich(), *(demo_plan(name) for name in DEMOS)])
def test_what_goes_out_comes_back_the_same(plan: Plan) -> None:
    told = written(plan)
    assert with_table(plan, cells(plan)) == plan
    for key in plan.panels:
        assert with_schedule(plan, key, table_as_csv(written(plan, key)).encode()) == plan
    assert table_of(table_as_csv(told)).rows == [(number, dict(row)) for number, row in _seen(told)]
    assert xlsx_table(table_as_xlsx(told)).rows == [(number, dict(row)) for number, row in _seen(told)]
    assert read_table(plan, cells(plan)).changes == []


def _seen(told: Any) -> list[tuple[int, dict[str, str]]]:
    return [(number, {key: row[key] for key in told.columns}) for number, row in told.rows]


@pytest.mark.parametrize("seed", range(0, 60, 3))
def test_any_house_goes_out_and_comes_back_the_same(seed: int) -> None:
    plan = read_plan(any_house(seed))
    assert with_table(plan, cells(plan)) == plan


def test_by_label_by_space_or_new_without_ids() -> None:
    text = (
        'Label;Space;Amps;mark;Remark\n"label; of “a”";3;15 A;off;x\nNew one;13 15;30;keep;\nOther;5 7;25;;'
    )
    found = with_table(rich(), GivenTable(text=text)).circuits
    assert (found["a"].spaces, found["a"].breaker_a, found["a"].awg) == ((3,), 15.0, 12)
    assert (found["new-one"].spaces, found["new-one"].breaker_a) == ((13, 15), 30.0)
    assert (found["b"].label, found["b"].mm2) == ("Other", 6.0), "known by its spaces; the rest stays"
    assert set(found) == {"a", "b", "c", "d", "e", "new-one"}, "lines are laid over what is there"
    assert "A column “Remark” is not known" in read_table(rich(), GivenTable(text=text)).notes[0]


@pytest.mark.parametrize(
    ("text", "field", "right"),
    [
        ("hello", "/row/1", "space, amps, label"),
        ("spaces,breaker_a,label\n,20,x", "/row/2/spaces", "one space such as 5"),
        ("spaces,breaker_a,label\n5 9,20,x", "/row/2/spaces", "below each other, such as 5 7"),
        ("spaces,poles,label\n5 7,1,x", "/row/2/spaces", "one space for one pole"),
        ("spaces,poles,label\n5,3,x", "/row/2/spaces", "poles are 1 or 2"),
        ("spaces,breaker_a,label\n85,20,x", "/row/2/spaces", "from 1 to 84"),
        ("spaces,breaker_a,label\n1,lots,x", "/row/2/breaker_a", "amps"),
        ("spaces,breaker_a,label\n1,20,", "/row/2/label", "at most 80 letters"),
        ("spaces,breaker_a,label,mark\n1,20,x,always", "/row/2/mark", "keep, room or off"),
        ("spaces,breaker_a,label,wire\n1,20,x,thick", "/row/2/wire", "12 AWG or 2.5 mm2"),
        ("spaces,label,wire\n1,x,13 AWG", "/row/2/wire", "14, 12, 10"),
        ("spaces,label,length\n1,x,far", "/row/2/length", "40 ft or 12 m"),
        ("spaces,breaker_a,label,order\n1,20,x,first", "/row/2/order", "whole number"),
        ("spaces,breaker_a,label,locked\n1,20,x,maybe", "/row/2/locked", "yes or no"),
        ("spaces,label,answers\n1,x,what", "/row/2/answers", "question=yes"),
        ("spaces,label,mwbc\n1,x,3", "/row/2/multiwire_partner", "such as 19"),
        ("spaces,label,draw\n1,x,much", "/row/2/draw", "130 W, 6 A or 1.6 kWh/day"),
        ("spaces,label,draw\n1,x,12 V", "/row/2/draw", "130 W, 6 A or 1.6 kWh/day"),
        ("spaces,label,loads\n1,x,own thing", "/row/2/draw", "130 W, 6 A or 1.6 kWh/day"),
        ("spaces,label,loads,draw\n1,x,a thing,5 W; 6 W", "/row/2/draw", "one for each"),
        ("spaces,label,draw\n1,x,\"100 W, 9 kWh/day\"", "/row/2/draw", "at most 2,400 Wh a day"),
        ("spaces,label,loads,clamp\n1,x,a; b,6 A", "/row/2/clamp_a", "one thing on"),
        ("spaces,label,sure\n1,x,certain", "/row/2/sure", "measured, plate"),
        ("spaces,label,draw,read on\n1,x,5 W,soon", "/row/2/read_on", "2026-10-14"),
        ("spaces,label,panel\n1,x,Shed panel", "/row/2/panel", "feeds Shed panel"),
        ("id,spaces,breaker_a,label\na,1,20,x\na,3,20,y", "/row/3/id", "no other breaker"),
        ("id,spaces,breaker_a,label\nb,3,15,other", "/loads/x", "a row for its breaker"),
    ],
)  # fmt: skip
def test_wrong_rows_are_named(text: str, field: str, right: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        with_schedule(rich(), "main", text.encode())
    problem = refused.value.problems[0]
    assert (problem.field, right in problem.right) == (field, True), problem


def test_labels_as_typed() -> None:
    found = pasted(
        "1 kitchen fridge 20A\n# later\n5,7 well pump 20 A\n9a hall 15 a\n9b. bath gfci 20 amps\n11 den\n"
    )
    assert [(c.label, c.spaces, c.half, c.breaker_a, c.protection) for c in found.circuits.values()] == [
        ("kitchen fridge", (1,), None, 20, "none"),
        ("well pump", (5, 7), None, 20, "none"),
        ("hall", (9,), "upper", 15, "none"),
        ("bath", (9,), "lower", 20, "gfci"),
        ("den", (11,), None, None, "none"),
    ]
    assert all(c.mark == "off" for c in found.circuits.values())
    assert found.loads == {}


@pytest.mark.parametrize("line", ["fridge 20 A", "1 20 A", "0 fridge 20 A", "", "1 fridge 0 A", "20A fridge"])
def test_lines_that_cannot_be_read(line: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        with_table(EMPTY, GivenTable(text=line))
    assert any(words in refused.value.problems[0].right for words in ("such as", "letters", "from 1 to"))


@pytest.mark.parametrize(
    ("line", "told"),
    [
        ("5 well pump 20 A 2p", {"spaces": "5", "poles": "2", "breaker_a": "20", "label": "well pump"}),
        ("16 2P20 heat pump", {"poles": "2", "breaker_a": "20", "label": "heat pump"}),
        ("17 dining mwbc with 19 15A", {"multiwire_partner": "19", "label": "dining"}),
        ("3 bench on garage sub-panel 20A", {"panel": "garage sub-panel", "label": "bench"}),
        ("18 20 shop 60A feeds garage sub-panel", {"feeds": "garage sub-panel", "label": "shop"}),
        ("2 4 range 50A 6 AWG aluminium", {"wire": "6 AWG", "metal": "aluminium", "breaker_a": "50"}),
        ("1 hall 12/2 40'", {"wire": "12 AWG", "length": "40 ft", "label": "hall"}),
        ("6 pump clamp 6.2 A must run", {"clamp_a": "6.2 A", "mark": "keep", "label": "pump"}),
        ("6 pump 8 A at 240 V by plate", {"draw": "8 A at 240 V", "sure": "plate", "label": "pump"}),
        ("7 fridge 1.6 kWh/day, 130 W, start 1100 W", {"draw": "1.6 kWh/day, 130 W", "start": "1100 W"}),
        ("7 cold: chest freezer measured 2026-10-14", {"loads": "chest freezer", "read_on": "2026-10-14"}),
        ("11 living room 15A", {"label": "living room", "breaker_a": "15"}),
        ("13 hot plate 20 A", {"label": "hot plate"}),
        ("8 office 15 A if room", {"mark": "room", "label": "office"}),
        ("21 bedroom 2 15", {"label": "bedroom 2", "breaker_a": "15"}),
        ("23 bedroom 2", {"label": "bedroom 2"}),
        ("12\tDen\t20\t12", {"label": "Den", "breaker_a": "20", "wire": "12"}),
        ("14 | Den | 15 A | router", {"label": "Den", "breaker_a": "15", "loads": "router"}),
        ("4 bath afci/gfci 20", {"protection": "gfci_afci", "label": "bath", "breaker_a": "20"}),
        ("2 ring 32 A 2.5 mm²", {"wire": "2.5 mm²", "label": "ring"}),
    ],
)
def test_what_people_type(line: str, told: dict[str, str]) -> None:
    found = cells_of_line(line)
    assert {key: found.get(key) for key in told} == told
    assert "mark" in told or "mark" not in found


def test_a_sub_panel_its_feeder_a_shared_neutral_and_a_wider_panel() -> None:
    plan = pasted(
        "17 dining mwbc with 19 15A\n19 hall 15A\n38 40 feeder 60A 6 AWG feeds garage sub-panel\n"
        "1 bench on garage sub-panel 20A 12\n2 lights on garage sub-panel 15A"
    )
    sub = plan.panels["garage-sub-panel"]
    assert (sub.name, sub.fed_from, sub.spaces) == ("Garage sub-panel", "feeder", 12)
    assert sub.main_a is None, "what nobody has read is not known"
    assert plan.panels["main"].spaces == 40
    assert {plan.circuits[key].panel_id for key in ("bench", "lights")} == {"garage-sub-panel"}
    assert (plan.circuits["dining"].multiwire_partner, plan.circuits["hall"].multiwire_partner) == (
        "hall", "dining",
    )  # fmt: skip
    told = " ".join(
        read_table(EMPTY, GivenTable(text="38 40 f 60A feeds shed panel\n1 x on shed panel")).changes
    )
    assert "Shed panel is new, fed from breaker 38 40; its main and bus are not known yet" in told
    assert "Main panel grows to 40 spaces" in told
    gone = with_table(plan, cells(plan, multiwire_partner=""))
    assert gone.circuits["dining"].multiwire_partner is None


def test_bare_figures_are_in_the_units_of_the_house() -> None:
    text = "space,label,wire,length\n1,x,12,40\n3,y,10 Al,12 m"
    here: Any = pasted(text).circuits
    assert (here["x"].awg, here["x"].length_m) == (12, pytest.approx(40 * 0.3048))
    assert (here["y"].awg, here["y"].metal, here["y"].length_m) == (10, "aluminium", 12)
    flat = pasted("space,label,wire\n1,ring,2.5", bare_house("single_phase_230")).circuits
    assert flat["ring"].mm2 == 2.5


def test_loads_by_figures_by_class_and_by_reading() -> None:
    """The worked figures: 6.2 A × 120 V × 0.8 and 8 A × 240 V × 0.8, and 1.56 kWh of 24 h × 130 W."""
    plan = pasted(
        "1 saw: own saw 900 W start 2 kVA by plate\n3 fridge 130 W 1.56 kWh/day\n"
        "5 chill: refrigerator clamp 6.2 A measured 2026-10-14\n7 9 well pump 20 A 8 A at 240 V"
    )
    loads: Any = plan.loads
    saw, fridge, chill = loads["own-saw"], loads["fridge"], loads["refrigerator"]
    assert (saw.behaviour, saw.origin) == (Steady(watts=900.0), "plate")
    assert saw.start.va == 2_000
    assert (fridge.behaviour.on_w, fridge.behaviour.duty, fridge.role) == (130, pytest.approx(0.5), "food")
    assert (chill.behaviour.on_w, chill.origin, chill.read_on) == (
        pytest.approx(6.2 * 120 * 0.8), "measured", date(2026, 10, 14),
    )  # fmt: skip
    assert chill.power_factor == 0.8, "kept"
    pump = plan.loads["well-pump"].behaviour
    assert isinstance(pump, Cycling)
    assert pump.on_w == pytest.approx(8 * 240 * plan.loads["well-pump"].power_factor)


def test_cells_change_move_and_take_out_what_hangs_on_a_breaker() -> None:
    plan = rich()
    louder = with_table(plan, cells(plan, draw="5 W; 9 W"))
    assert louder.loads["x"] == plan.loads["x"]
    assert (louder.loads["y"].behaviour, louder.loads["y"].origin) == (Steady(watts=9.0), "measured")
    moved = with_table(plan, cells(plan, loads=""))
    assert moved.loads == {}, "an emptied cell takes out what hung there"
    assert "2 loads taken out" in " ".join(read_table(plan, cells(plan, loads="")).changes)
    given = cells(plan, loads="fan", draw="7.25 W", sure="measured")
    given.rows[1][given.columns.index("loads")] = "lamp"
    there = with_table(plan, given)
    assert {key: item.circuit_id for key, item in there.loads.items()} == {"x": "b", "y": "a"}
    assert there.loads["x"].behaviour == plan.loads["x"].behaviour
    demo = demo_plan("hut")
    mixed = cells(demo)
    for row in mixed.rows:
        row[mixed.columns.index("draw")] = ""
    with pytest.raises(InvalidInput):
        with_table(demo, mixed)


def test_a_breaker_left_out_of_the_whole_table_goes_with_what_names_it() -> None:
    plan = rich()
    given = cells(plan)
    given.rows = [row for row in given.rows if row[0] not in ("c", "e")]
    after = with_table(plan, given)
    assert set(after.circuits) == {"a", "b", "d"}
    assert after.circuits["d"].multiwire_partner is None
    read_plan(after.model_dump(mode="json", exclude_none=True))
    given.rows = [row for row in given.rows if row[0] != "a"]
    bare = with_table(plan, given)
    assert bare.loads == {}, "what hung on a row that was taken out goes with it"
    assert "2 loads taken out: lamp, fan" in " ".join(read_table(plan, given).changes)
    given.rows[0][given.columns.index("loads")] = "fan"
    moved = with_table(plan, given).loads
    assert {key: item.circuit_id for key, item in moved.items()} == {"y": "b"}, (
        "named in another row it moves"
    )


def test_labels_bring_what_they_usually_mean_only_when_asked() -> None:
    text = "1 fridge 20 A\n2 4 range 50 A\n3 sump pump 15 A off\n5 bedroom\n6 8 water heater 30 A\n7 furnace"
    assert pasted(text).loads == {}
    view = read_table(EMPTY, GivenTable(text=text))
    assert [row.usual for row in view.rows] == [
        "refrigerator", "range and oven", "sump pump", None, "electric water heater",
        "gas furnace with a plain blower",
    ]  # fmt: skip
    plan = pasted(text, usual=True)
    assert {plan.circuits[item.circuit_id or ""].label: item.name for item in plan.loads.values()} == {
        "fridge": "refrigerator",
        "range": "range and oven",
        "sump pump": "sump pump",
        "water heater": "electric water heater",
        "furnace": "gas furnace with a plain blower",
    }
    assert {item.label: item.mark for item in plan.circuits.values()} == {
        "fridge": "keep", "range": "off", "sump pump": "off", "bedroom": "off", "water heater": "off",
        "furnace": "keep",
    }  # fmt: skip


def test_every_word_of_a_label_is_a_class_of_the_library() -> None:
    classes = {item.appliance_id for item in appliances()} | {item.heater_id for item in heaters()}
    for row in table("label_words"):
        assert row["class_id"] in classes
        found = usual_load(f"the {row['words']} downstairs", int(row["poles"]))
        assert found is not None
        assert found[1] == row["class_id"], row["words"]


def test_faults_stand_by_their_cells_and_the_rest_is_shown() -> None:
    view = read_table(EMPTY, GivenTable(text="1 fridge 20 A\nfurnace\n3 hall 15 A\n3 bath 15 A"))
    by_label = {row.cells[[c.key for c in view.columns].index("label")]: row for row in view.rows}
    assert [fault.column for fault in by_label["furnace"].faults] == ["spaces"]
    assert [fault.column for fault in by_label["bath"].faults] == ["spaces"], "two in one space"
    assert by_label["fridge"].faults == []
    assert view.faults == 2
    given = cells(rich(), breaker_a="lots", wire="thick")
    whole = read_table(rich(), given)
    assert [row.cells[0] for row in whole.rows] == [row[0] for row in given.rows], "cells stay as they were"
    assert [fault.column for fault in whole.rows[0].faults] == ["breaker_a", "wire"]
    assert whole.rows[0].faults[0].got == '"lots"'


@pytest.mark.parametrize("content", [b"PK\x03\x04 nothing", b"PK", b""])
def test_a_broken_spreadsheet_is_refused(content: bytes) -> None:
    with pytest.raises(NotReadable, match="spreadsheet"):
        xlsx_table(content)


def test_a_spreadsheet_of_numbers_and_days_is_read() -> None:
    import io

    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active
    assert sheet is not None
    for row in ([], ["Ckt #", "Description", "Amps", "Watts", "Read on", "Unknown"],
                [1, "fridge", 20, 130.5, date(2026, 10, 14), "x"], [3.0, "=1+1", 15]):  # fmt: skip
        sheet.append(row)
    out = io.BytesIO()
    book.save(out)
    found = xlsx_table(out.getvalue())
    assert found.rows[0][1] == {
        "spaces": "1", "label": "fridge", "breaker_a": "20", "draw": "130.5", "read_on": "2026-10-14",
    }  # fmt: skip
    assert "Unknown" in found.notes[0]


def test_what_a_pasted_table_has_no_word_for_stays() -> None:
    """Columns that are missing, or cells that are empty, take nothing away from a breaker that is there."""
    plan = rich()
    sparse = 'Label,Space,Wire,Load,Protection\n"label; of “a”",1,,,\n'
    assert with_table(plan, GivenTable(text=sparse)) == plan
    assert read_table(plan, GivenTable(text=sparse)).changes == []


@pytest.mark.parametrize(
    ("system", "cell", "right"),
    [
        ("split_phase_120_240", "2.5", "14, 12, 10"),
        ("split_phase_120_240", "13", "14, 12, 10"),
        ("single_phase_230", "12", "2.5 mm2 or 12 AWG"),
    ],
)
def test_a_size_that_may_be_another_is_asked(system: Any, cell: str, right: str) -> None:
    """2.5 is no gauge and 12 no area that is made: neither is taken for the other."""
    view = read_table(bare_house(system), GivenTable(text=f"space,label,wire\n1,x,{cell}"))
    assert [(fault.column, right in fault.right) for fault in view.rows[0].faults] == [("wire", True)]


def test_volt_amperes_are_no_watts_and_a_day_has_24_hours() -> None:
    plan = pasted("1 fridge: refrigerator 20A\n")
    factor = plan.loads["refrigerator"].power_factor
    heard: Any = with_table(plan, cells(plan, draw="200 VA")).loads["refrigerator"].behaviour
    assert heard.on_w == pytest.approx(200 * factor)
    with pytest.raises(InvalidInput, match="at most"):
        with_table(plan, cells(plan, draw="99 kWh/day"))


def test_a_panel_that_nothing_feeds_any_more_is_told() -> None:
    plan = pasted("2 4 feeder 60A feeds shed panel\n1 bench on shed panel 20A")
    given = cells(plan)
    row = next(row for row in given.rows if row[0] == "feeder")
    row[given.columns.index("feeds")] = ""
    assert "Shed panel is fed from the utility." in read_table(plan, given).changes
    assert with_table(plan, given).panels["shed-panel"].fed_from is None
    wrong = read_table(plan, GivenTable(text="6 lights on shed panel 15A\n8 x on barn panel 15A"))
    assert [row.cells[2] for row in wrong.rows if row.faults] == ["8"], "the row that names it"


def test_what_belongs_to_no_row_is_told_by_its_place() -> None:
    view = read_table(demo_plan(), GivenTable(text="2 new 15A"))
    assert view.faults == 1
    told = [*(fault.column for row in view.rows for fault in row.faults), *(f.column for f in view.loose)]
    assert told in (["spaces"], ["/feeds/inlet/breaker_spaces"])


#: What may stand in a line behind the label, as it may be written, and the cells that it is.
SAID: dict[str, list[tuple[str, dict[str, str]]]] = {
    "amps": [("20A", {"breaker_a": "20"}), ("20 A", {"breaker_a": "20"}), ("20 amps", {"breaker_a": "20"})],
    "poles": [("2p", {"poles": "2"}), ("2-pole", {"poles": "2"}), ("", {})],
    "wire": [("12 AWG", {"wire": "12 AWG"}), ("12/2", {"wire": "12 AWG"}), ("2.5 mm2", {"wire": "2.5 mm2"}),
             ("", {})],
    "length": [("80 ft", {"length": "80 ft"}), ("12 m", {"length": "12 m"}), ("", {})],
    "mark": [("keep", {"mark": "keep"}), ("must run", {"mark": "keep"}), ("if room", {"mark": "room"})],
    "protection": [("gfci", {"protection": "gfci"}), ("afci/gfci", {"protection": "gfci_afci"}), ("", {})],
    "neutral": [("mwbc with 19", {"multiwire_partner": "19"}), ("", {})],
    "panel": [("on garage sub-panel", {"panel": "garage sub-panel"}), ("", {})],
    "draw": [("8 A at 240 V", {"draw": "8 A at 240 V"}), ("130 W", {"draw": "130 W"}), ("", {})],
    "start": [("start 4 kVA", {"start": "4 kVA"}), ("", {})],
    "sure": [("by plate", {"sure": "plate"}), ("measured", {"sure": "measured"}), ("", {})],
}  # fmt: skip


@pytest.mark.parametrize("seed", range(40))
def test_parts_of_a_line_stand_in_any_order_and_nothing_of_them_stays_in_the_label(seed: int) -> None:
    dice = random.Random(seed)
    for _ in range(50):
        chosen = [dice.choice(ways) for ways in SAID.values()]
        dice.shuffle(chosen)
        told = {key: cell for _, cells_of in chosen for key, cell in cells_of.items()}
        words = " ".join(text for text, _ in chosen if text)
        line = f"5 7 {dice.choice(['well pump', 'bedroom 3', 'living room'])} {words}"
        found = cells_of_line(line)
        label = found.pop("label")
        assert line.startswith(f"5 7 {label} "), line
        assert (label, found) == (label.strip(), {"spaces": "5 7", **told}), line


@pytest.mark.parametrize(
    ("line", "label"),
    [
        ("9 hall lights 15A 14 keep", "hall lights"),
        ("13 counter left 20A 12 gfci mwbc with 15", "counter left"),
        ("5 well pump 20A 2p 12 AWG 80 ft keep", "well pump"),
        ("5 well pump 20A 2p 12", "well pump"),
        ("1 fridge 20A 12: refrigerator 130 W", "fridge"),
        ("7 bath 20A 12 on garage sub-panel", "bath"),
    ],
)
def test_a_bare_gauge_behind_the_amps_is_one(line: str, label: str) -> None:
    found = cells_of_line(line)
    assert (found["label"], found["wire"]) == (label, "14 AWG" if "14" in line else "12 AWG")
