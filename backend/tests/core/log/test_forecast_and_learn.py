"""The forecast from readings and what they teach: closed forms, sessions with a known truth, slips."""

import json
import math
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest
from builders import circuit, house, load, steady
from command_line import cedar

from weary_cedar.core.errors import InvalidPlan
from weary_cedar.core.log.forecast import forecast
from weary_cedar.core.log.from_then_on import rest_of
from weary_cedar.core.log.learn import learn
from weary_cedar.core.log.said import understood
from weary_cedar.core.log.session import Session, SessionRow, begun, read_session
from weary_cedar.core.outage import run_outage
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.demo import demo_plan
from weary_cedar.store.edits import canonical

START = datetime(2026, 1, 12)


def lamp(watts: float = 200.0, hours: float = 48.0, **station: object) -> Plan:
    """One guessed load on a station of 5,120 Wh."""
    document = house(
        {"one": circuit([1])},
        {"lamp": load("one", steady(watts), origin="estimate", tolerance_s=0)},
        station=dict(station),
        outage={"ac_on_at_start": True, "length_s": hours * 3600},
    )
    return read_plan(document)


def session(plan: Plan, *said: tuple[float, str]) -> Session:
    """A session with lines at hours after its beginning."""
    made = begun(plan, "night", START)
    rows = []
    for number, (hour, line) in enumerate(said):
        at = START + timedelta(hours=hour)
        found = understood(plan, line, at)
        assert not found.questions, found.questions
        rows += [
            SessionRow(id=f"{number}.{k}", at=at, entered=at, text=line, **row.model_dump())
            for k, row in enumerate(found.rows)
        ]
    return made.with_rows(rows)


def test_from_a_reading_on_it_is_energy_over_power() -> None:
    """60 % of 5,120 Wh at 200 W are 15.36 h, whatever the run had by then."""
    plan = lamp()
    found = forecast(plan, session(plan, (8, "60%")), outages=20)
    assert found.charges == {"unit": 60.0}
    until = START + timedelta(hours=8 + 0.6 * 5120 / 200)
    assert found.until is not None
    assert abs((found.until.replace(tzinfo=None) - until).total_seconds()) < 60
    assert found.low is not None
    assert found.low <= found.until
    assert found.sentence.startswith("Lasts until Mon 12 Jan 23:21, between")
    assert found.alarms == () or "may not reach" in found.alarms[0]


def test_a_later_reading_narrows_and_corrects() -> None:
    plan = lamp(hours=40)
    early = forecast(plan, session(plan, (2, "94%")), outages=40)
    late = forecast(plan, session(plan, (2, "94%"), (20, "22%")), outages=40)

    def width(found: object) -> float:
        low, high = found.low, found.high or START.astimezone() + timedelta(hours=40)  # type: ignore[attr-defined]
        return float((high - low).total_seconds()) if low else math.inf

    assert width(late) < width(early)
    assert late.until is not None
    assert late.charges == {"unit": 22.0}


def test_a_reading_is_carried_on_to_the_moment() -> None:
    plan = lamp()
    rest = rest_of(plan, session(plan, (4, "80%")), 6 * 3600.0)
    assert rest.charges["unit"] == pytest.approx(80 - 100 * 2 * 200 / 5120, abs=0.01)
    assert rest.plan.outage.length_s == 42 * 3600.0
    assert rest.plan.outage.start_local == START + timedelta(hours=6)


def test_what_was_switched_off_stays_off_from_then_on() -> None:
    plan = lamp()
    off = forecast(plan, session(plan, (4, "80%"), (5, "lamp off")), outages=5)
    assert off.until is None
    assert off.lasted == off.outages
    rest = rest_of(plan, session(plan, (4, "80%"), (5, "lamp off")), 5 * 3600.0)
    assert [(act.part_id, act.turn, act.at_s) for act in rest.plan.outage.acts.values()] == [
        ("lamp", "off", 0.0)
    ]
    run = run_outage(rest.plan)
    assert run.series.charge_percent[-1] == pytest.approx(80 - 100 * 200 / 5120, abs=0.1)


def test_the_rest_of_a_demo_is_that_of_its_run() -> None:
    """With the readings that its run has, the rest loses as much as the run does."""
    plan = demo_plan("foothill")
    run = run_outage(plan)
    at_s = 30 * 3600.0
    made = begun(plan, "storm", plan.outage.start_local)
    rest = rest_of(plan, made, at_s)
    again = run_outage(rest.plan)
    whole = float(np.interp(run.length_s - 3600, run.series.t_s, run.series.charge_percent))
    part = float(np.interp(run.length_s - 3600 - at_s, again.series.t_s, again.series.charge_percent))
    assert again.verdict.status == run.verdict.status
    assert part == pytest.approx(whole, abs=12.0)
    found = forecast(plan, made, plan.outage.start_local + timedelta(hours=30), outages=10)
    assert "No charge was read yet" in found.notes[0]
    assert found.night.startswith("Enough for the night: it takes")


def test_a_display_is_told_to_differ() -> None:
    plan = lamp(300.0)
    found = forecast(plan, session(plan, (8, "50%"), (8, "shows 99 h left")), outages=5)
    assert "The display showed 99 h left; this says" in found.display
    assert "knows of no night" in found.display
    same = forecast(plan, session(plan, (8, "50%"), (8, "shows 8.5 h left")), outages=5)
    assert same.display.endswith("they agree.")


def test_no_forecast_of_what_must_not_be() -> None:
    plan = demo_plan("foothill")
    bad = read_plan({**canonical(plan), "feeds": {"inlet": {**canonical(plan)["feeds"]["inlet"],
                                                            "kind": "no_transfer"}}})  # fmt: skip
    assert "must not be energised" in forecast(bad, begun(bad, "x", plan.outage.start_local)).why_not


# ---------------------------------------------------------------- learning


def test_a_row_that_does_not_fit_is_named_with_its_slip() -> None:
    plan = lamp(200.0)
    good = [(2.0, "92%"), (6.0, "77%"), (10.0, "61%"), (14.0, "45%"), (18.0, "30%")]
    clean = learn(plan, session(plan, *good))
    assert clean.misfits == ()
    turned = [*good[:2], (10.0, "16%"), *good[3:]]
    found = learn(plan, session(plan, *turned))
    assert [round(item.read) for item in found.misfits] == [16]
    assert "turned round: 61 would fit" in found.misfits[0].slip
    watts = learn(plan, session(plan, *good, (12.0, "out 2000 W")))
    assert "ten times too large" in watts.misfits[0].slip


def test_what_was_learnt_is_a_patch_that_is_measured() -> None:
    plan = lamp(200.0)
    found = learn(plan, session(plan, (2.0, "90%"), (6.0, "70%"), (10.0, "50%"), (14.0, "30%")))
    draws = next(item for item in found.figures if item.key == "draws")
    assert draws.after > 1.1
    loads = draws.patch["loads"]["lamp"]
    assert loads["origin"] == "measured"
    assert loads["behaviour"]["watts"] == pytest.approx(200 * draws.after)
    assert "what loads draw that were not measured" in found.sentence
    assert found.next
    assert "too few" in learn(plan, session(plan, (2.0, "90%"))).why_not


# ---------------------------------------------------------------- sessions


def test_rows_are_appended_corrected_and_merged() -> None:
    plan = lamp()
    one = session(plan, (2, "90%"), (4, "80%"))
    right = one.rows[1].model_copy(update={"id": "right", "value": 70.0, "corrects": one.rows[1].id})
    other = one.with_rows([right])
    assert [row.value for row in other.standing()] == [90.0, 70.0]
    assert len(other.rows) == 3
    assert other.with_rows(one.rows) == other
    assert read_session(other.model_dump_json().encode()) == other
    with pytest.raises(InvalidPlan, match="/rows/0/kind"):
        read_session(other.model_dump_json().replace('"reading"', '"guess"', 1).encode())


def test_a_session_on_the_command_line(tmp_path: Path) -> None:
    plan, file, log = lamp(), tmp_path / "plan.json", tmp_path / "session.json"
    file.write_text(json.dumps(canonical(plan)))
    at = ["--now", "2026-01-12T08:00"]
    assert cedar("log", str(file), str(log), "60%", "lamp 210 W", *at).returncode == 0
    asked = cedar("log", str(file), str(log), "bananas", *at)
    assert asked.returncode == 1
    assert "not understood" in asked.stderr
    assert len(json.loads(log.read_text())["rows"]) == 2
    told = cedar("forecast", str(file), str(log), "--outages", "5")
    assert told.returncode == 1
    assert "Lasts until Mon 12 Jan 23:21" in told.stdout
    found = json.loads(cedar("forecast", str(file), str(log), "--outages", "5", "--json").stdout)
    form = json.loads(cedar("schema", "--session").stdout)
    assert set(found) == set(form["forecast"]["properties"])
    assert cedar("log", str(file), str(log), "77%", "--now", "2026-01-12T04:00").returncode == 0
    lesson = json.loads(cedar("learn", str(file), str(log), "--json").stdout)
    assert set(lesson) == set(form["learn"]["properties"])
    wrong = cedar("log", str(file), str(log), "50%", "--corrects", "none", *at)
    assert wrong.returncode == 2
    assert "--corrects" in wrong.stderr
