"""Panel schedules on paper."""

import re
from datetime import date
from typing import Any

from builders import circuit, house

from weary_cedar.core.plan import CheckAnswer, read_plan
from weary_cedar.demo import demo_plan
from weary_cedar.formats.panel_pdf import labels_pdf, schedule_pdf
from weary_cedar.formats.paper import Edition

EDITION = Edition(7, date(2026, 11, 27))


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
