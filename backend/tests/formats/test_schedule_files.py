"""Panel schedules in and out: CSV, typed labels, paper."""

import re
from datetime import date
from typing import Any

import pytest
from builders import circuit, house, load, steady

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.plan import CheckAnswer, Plan, read_plan
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.formats.label_lines import read_labels
from weary_cedar.formats.panel_pdf import labels_pdf, schedule_pdf
from weary_cedar.formats.paper import Edition
from weary_cedar.formats.schedule_csv import read_schedule, write_schedule

EDITION = Edition(7, date(2026, 11, 27))


def rich() -> Plan:
    circuits = {
        "a": circuit([1], "keep", 1, awg=12, protection="gfci", outlets=["sink, left", "hood"]),
        "b": circuit([5, 7], "room", 9, mm2=6.0, metal="aluminium", locked=True),
        "c": circuit([9], half="upper", multiwire_partner="d"),
        "d": circuit([11], multiwire_partner="c"),
        "e": circuit([9], half="lower"),
    }
    for key, item in circuits.items():
        item["label"] = f"label; of “{key}”"
    return read_plan(house(circuits, {"x": load("a", steady(5))}))


@pytest.mark.parametrize("plan", [rich(), *(demo_plan(name) for name in DEMOS)])
def test_csv_round_trip_is_the_identity(plan: Plan) -> None:
    panel_id = next(iter(plan.panels))
    again = read_schedule(write_schedule(plan, panel_id), plan, panel_id)
    assert again == plan


def test_csv_by_label_without_ids() -> None:
    plan = rich()
    text = 'Label;Spaces;Breaker_A;mark\n"label; of “a”";3;15 A;off\nNew one;13 15;30;keep\n'
    found = read_schedule(text, plan, "main").circuits
    assert found["a"].spaces == (3,)
    assert (found["new-one"].spaces, found["new-one"].breaker_a) == ((13, 15), 30.0)
    assert set(found) == {"a", "new-one"}


@pytest.mark.parametrize(
    ("text", "field", "right"),
    [
        ("hello", "/row/1", "spaces, breaker_a, label"),
        ("spaces,breaker_a,label\n,20,x", "/row/2/spaces", "one space such as 5"),
        ("spaces,breaker_a,label\n1,lots,x", "/row/2/breaker_a", "amps"),
        ("spaces,breaker_a,label,mark\n1,20,x,always", "/row/2/mark", "'keep', 'room' or 'off'"),
        ("spaces,breaker_a,label,wire\n1,20,x,thick", "/row/2/wire", "12 AWG or 2.5 mm2"),
        ("spaces,breaker_a,label,order\n1,20,x,first", "/row/2/order", "whole number"),
        ("spaces,breaker_a,label,locked\n1,20,x,maybe", "/row/2/locked", "yes or no"),
        ("id,spaces,breaker_a,label\na,1,20,x\na,3,20,y", "/row/3/id", "no other breaker"),
        ("id,spaces,breaker_a,label\nb,3,15,other", "/loads/x", "a row for its breaker"),
    ],
)
def test_wrong_rows_are_named(text: str, field: str, right: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        read_schedule(text, rich(), "main")
    problem = refused.value.problems[0]
    assert problem.field == field
    assert right in problem.right


def test_labels_as_typed() -> None:
    found = read_labels(
        "1 kitchen fridge 20A\n# later\n5,7 well pump 20 A\n9a hall 15 a\n9b. bath gfci 20 amps\n", "main"
    )
    assert [(c.label, c.spaces, c.half, c.breaker_a, c.protection) for c in found.values()] == [
        ("kitchen fridge", (1,), None, 20, "none"),
        ("well pump", (5, 7), None, 20, "none"),
        ("hall", (9,), "upper", 15, "none"),
        ("bath", (9,), "lower", 20, "gfci"),
    ]
    assert all(c.mark == "off" for c in found.values())


@pytest.mark.parametrize("line", ["fridge 20 A", "1 fridge", "1 20 A", "0 fridge 20 A", "", "1 fridge 0 A"])
def test_labels_that_cannot_be_read(line: str) -> None:
    with pytest.raises(InvalidInput, match="such as: 5 7 well pump 20 A"):
        read_labels(line, "main")


def pages(content: bytes) -> int:
    return len(re.findall(rb"/Type /Page\b", content))


def test_paper() -> None:
    plan = demo_plan()
    assert schedule_pdf(plan, "main", EDITION) == schedule_pdf(plan, "main", EDITION)
    assert schedule_pdf(plan, "main", EDITION).startswith(b"%PDF")
    assert pages(schedule_pdf(plan, "main", EDITION)) == 1
    assert pages(labels_pdf(plan, "main", EDITION)) == 1
    big: Any = house({f"c{n}": circuit([n]) for n in range(1, 85) if n not in (2, 4)}, {})
    big["panels"]["main"]["spaces"] = 84
    assert pages(schedule_pdf(read_plan(big), "main", EDITION)) == 2
    assert pages(labels_pdf(read_plan(big), "main", EDITION)) == 3


def test_answers_are_printed_with_the_plan() -> None:
    answer = CheckAnswer(reason="inspected, local approval", by="licence 123")
    plan = demo_plan()
    told = plan.model_copy(update={"check_answers": {"feed-sign@feeds/inlet": answer}})
    assert len(schedule_pdf(told, "main", EDITION)) > len(schedule_pdf(plan, "main", EDITION))


def test_a_stop_is_printed_too() -> None:
    plan = demo_plan()
    station = plan.stations["station"].model_copy(update={"hertz": 50})
    abroad = plan.model_copy(update={"stations": {"station": station}})
    assert len(schedule_pdf(abroad, "main", EDITION)) > len(schedule_pdf(plan, "main", EDITION))
