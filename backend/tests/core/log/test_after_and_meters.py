"""What follows from a session: meters against each other, food by a thermometer, how it went, its files."""

import json
from datetime import UTC, datetime, timedelta
from io import BytesIO
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from builders import circuit, house, load, steady
from command_line import cedar
from pypdf import PdfReader

from weary_cedar.core.errors import InvalidInput
from weary_cedar.core.log.afterwards import afterwards
from weary_cedar.core.log.displays import charge_at
from weary_cedar.core.log.forecast import forecast
from weary_cedar.core.log.learn import learn
from weary_cedar.core.log.meters import meter_books
from weary_cedar.core.log.present import present
from weary_cedar.core.log.said import understood
from weary_cedar.core.log.session import Session, SessionRow, begun
from weary_cedar.core.log.ticked import ticked
from weary_cedar.core.plan import Plan, read_plan
from weary_cedar.core.record import RecordEntry
from weary_cedar.demo import demo_plan
from weary_cedar.formats.session_csv import read_rows, write_rows
from weary_cedar.store.edits import canonical

START = datetime(2026, 1, 12)
FREEZER = {
    "kind": "refrigerating", "on_w": 90, "room_c": 20,
    "compartments": {"box": {"name": "freezer", "contents_kg": 30, "loss_w_per_k": 1.0, "set_c": -18}},
}  # fmt: skip


def lamp(**more: Any) -> Plan:
    """A lamp of 200 W on a station of 5,120 Wh with an efficiency of 0.9 and 10 W of its own."""
    loads = {"lamp": load("one", steady(200.0), tolerance_s=0), **more}
    station = {"inverter_efficiency": 0.9, "idle_w": 10.0}
    outage = {"ac_on_at_start": True, "length_s": 30 * 3600}
    return read_plan(house({"one": circuit([1])}, loads, station=station, outage=outage))


def session(plan: Plan, *said: tuple[float, str]) -> Session:
    made, rows = begun(plan, "night", START), []
    for number, (hour, line) in enumerate(said):
        at = START + timedelta(hours=hour)
        found = understood(plan, line, at)
        assert not found.questions, found.questions
        rows += [
            SessionRow(id=f"{number}.{k}", at=at, entered=at, text=line, **row.model_dump())
            for k, row in enumerate(found.rows)
        ]
    return made.with_rows(rows)


# ---------------------------------------------------------------- said


@pytest.mark.parametrize(
    ("line", "what", "value", "place"),
    [
        ("310 W at the output", "out_w", 310, "output"), ("0.31 kW at the wall", "in_w", 310, "wall"),
        ("1.2 kWh at the plug", "wh", 1200, "plug"), ("118 V at the far end", "volts", 118, "cord_far"),
        ("121 V at the station end of the cord", "volts", 121, "cord_near"),
        ("220 W from the cells", "out_w", 220, "cells"), ("5 A at the outlet", "amps", 5, "wall"),
        ("in 300 W at the wall", "in_w", 300, "wall"), ("calibrated", "calibrated", None, ""),
        ("full drain", "calibrated", None, ""), ("99 % after two weeks", "loss_week", 0.5, ""),
        ("97% after 3 weeks", "loss_week", 1.0, ""), ("90 % after a month", "loss_week", 2.333, ""),
    ],
)  # fmt: skip
def test_places_and_calibrations_are_understood(
    line: str, what: str, value: float | None, place: str
) -> None:
    found = understood(lamp(), line, START)
    assert found.questions == ()
    row = found.rows[0]
    assert (row.what, row.place) == (what, place)
    assert row.value == (None if value is None else pytest.approx(value, rel=1e-3))


# ---------------------------------------------------------------- meters


def test_meters_that_agree_tell_the_loss_of_each_section() -> None:
    """Ten hours of 200 W: 2,000 Wh at the output, and 2,000 / 0.9 + 100 at the cells, 45.4 % of 5,120 Wh."""
    plan = lamp()
    used = (2000 / 0.9 + 100) / 51.2
    said = [
        (0, "100%"),
        (0, "0.0 kWh at the output"),
        (10, f"{100 - used:.1f}%"),
        (10, "2.0 kWh at the output"),
    ]
    found = meter_books(plan, session(plan, *said))
    assert found.wrong == ()
    assert found.sections[0].words == "from the cells to the output"
    assert found.sections[0].lost_wh == pytest.approx(2000 / 0.9 + 100 - 2000, abs=15)
    assert found.unexplained_wh == pytest.approx(0, abs=5)
    assert found.sentence.endswith("as the run has it.")


def test_the_meter_that_cannot_be_right_is_named() -> None:
    """Three meters over ten hours of 200 W; the one at the plug says half."""
    plan = lamp()
    used = (2000 / 0.9 + 100) / 51.2
    cells = [(0, "100%"), (10, f"{100 - used:.1f}%")]
    out = [(0, "0 Wh at the output"), (10, "1990 Wh at the output")]
    plug = [(0, "0 Wh at the plug"), (10, "1000 Wh at the plug")]
    found = meter_books(plan, session(plan, *cells, *out, *plug))
    assert len(found.wrong) == 1
    assert found.wrong[0].startswith("The meter at the plugs cannot be right: it says 1,000 Wh where 1,9")
    two = meter_books(plan, session(plan, *out, *plug))
    assert "one of them cannot be right, a third one would tell which" in two.wrong[0]


def test_too_few_meters_say_so() -> None:
    plan = lamp()
    assert "say “1.2 kWh at the plug”" in meter_books(plan, session(plan)).why_not
    assert "at least two meters" in meter_books(plan, session(plan, (0, "90%"), (5, "80%"))).why_not


# ---------------------------------------------------------------- food


def freezing(**box: Any) -> Plan:
    boxes = {"box": {**FREEZER["compartments"]["box"], **box}}  # type: ignore[index]
    return lamp(cold=load("one", {**FREEZER, "compartments": boxes}, name="freezer", role="food"))


def test_a_thermometer_moves_what_lies_in_a_box() -> None:
    """Air is not contents: -10 °C of air in a room of 20 °C are contents of (-10 - 0.19 · 20) / 0.81."""
    plan = freezing()
    off = session(plan, (0, "freezer off"), (6, "freezer -10 C"))
    found = present(plan, off, START + timedelta(hours=6))
    spec = found.plan.loads["cold"].behaviour
    contents = spec.compartments["box"].start_c  # type: ignore[union-attr]
    assert contents == pytest.approx((-10 - 0.19 * 20) / 0.81, abs=0.6)
    told = forecast(plan, off, outages=3).food[0]
    assert (told.do, told.read) == ("keep", True)
    assert told.softens is not None
    assert "begins to soften" in told.sentence


@pytest.mark.parametrize(
    ("said", "do", "words"),
    [
        ([(6.0, "freezer -15 C")], "keep", "keep it"),
        ([(6.0, "freezer 4 C")], "cook_now", "it thaws"),
        ([(6.0, "freezer 7 C")], "cook_now", "over its limit"),
        ([(3.0, "freezer 6 C"), (6.0, "freezer 7 C")], "throw_away", "two hours and more"),
        ([(3.0, "freezer 6 C"), (4.0, "freezer -9 C"), (6.0, "freezer -8 C")], "keep", "keep it"),
        ([(2.0, "freezer 6 C"), (6.0, "90%")], "not_known", "read again"),
    ],
)
def test_keep_cook_or_throw_away(said: list[tuple[float, str]], do: str, words: str) -> None:
    plan = freezing()
    told = forecast(plan, session(plan, (0.0, "freezer off"), *said), outages=2).food[0]
    assert told.do == do, told.sentence
    assert words in told.sentence


def test_the_heat_that_comes_into_a_box_is_learnt_by_its_thermometer() -> None:
    """A box that leaks 1.6 times as much as was assumed, read without power."""
    from weary_cedar.core.log.from_then_on import as_it_went
    from weary_cedar.core.outage import run_outage

    plan = freezing()
    true = freezing(loss_w_per_k=1.6)
    off = session(true, (0.0, "freezer off"))
    course = run_outage(as_it_went(true, off)).compartments["cold/box"]
    said = [
        (h, f"freezer {float(np.interp(h * 3600, course.t_s, course.air_c)):.1f} C") for h in (2, 4, 6, 8, 10)
    ]
    found = learn(plan, session(plan, (0.0, "freezer off"), (0.1, "100%"), *said))
    leak = next(item for item in found.figures if item.key == "loads/cold/box/loss")
    assert leak.learnt
    assert leak.low <= 1.6 <= leak.high
    assert leak.patch["loads"]["cold"]["behaviour"]["compartments"]["box"]["loss_w_per_k"] > 1.2


# ---------------------------------------------------------------- alarms


def test_an_alarm_names_what_is_not_reached_and_a_reserve_that_is_not_kept() -> None:
    plan = lamp()
    people = canonical(plan)["outage"] | {"occupancy": {"wakes": "06:30", "sleeps": "22:30"}}
    awake = read_plan(canonical(plan) | {"outage": people})
    late = forecast(awake, session(awake, (12.0, "12%")), outages=20)
    assert late.alarms[0].startswith("It may not reach bedtime, Mon 12 Jan 22:30")
    rule = {"kind": "reserve", "circuit_ids": ["one"], "percent": 60, "bedtime": "22:00"}
    document = canonical(plan) | {"strategy": {"rules": [rule]}}
    kept = forecast(read_plan(document), session(plan, (12.0, "70%")), outages=3)
    assert any("where 60 % should be left" in alarm for alarm in kept.alarms)


def test_an_old_calibration_is_reminded_of() -> None:
    plan = lamp()
    row = SessionRow(
        id="c", at=START - timedelta(days=120), entered=START, kind="happening", told="calibrated",
        what="calibrated", part="stations/unit",
    )  # fmt: skip
    found = forecast(plan, session(plan, (1.0, "95%")).with_rows([row]), outages=2)
    assert any("was calibrated 120 days ago" in note for note in found.notes)


# ---------------------------------------------------------------- afterwards


def test_how_it_went_sets_three_figures_side_by_side() -> None:
    plan = lamp()
    went = session(
        plan, (0, "100%"), (5, "lamp off"), (21, "70%"), (22, "69%"), (23, "68%"), (23, "it tripped")
    )
    found = afterwards(plan, went)
    assert (
        found.sentence
        == "The outage lasted 23 h; nothing went dark by this log, foretold until Mon 12 Jan 22:02."
    )
    charge = found.figures[0]
    assert (charge.unit, charge.read) == ("%", 68)
    assert charge.as_it_went is not None
    assert charge.planned is not None
    assert charge.as_it_went > charge.planned
    assert found.loads[0].as_it_went == pytest.approx(1000, abs=1)
    assert any("it tripped" in words for words in found.surprises)
    assert found.follows[-1].patch == {"site": {"survey": {"tried-a-day": "yes"}}}
    assert afterwards(plan, session(plan)).why_not


def test_what_was_wanted_and_left_off_becomes_a_mark() -> None:
    document = canonical(lamp())
    document["circuits"]["one"]["mark"] = "off"
    plan = read_plan(document)
    found = afterwards(plan, session(plan, (1, "90%"), (4, "lamp on")))
    assert len(found.blind_spots) == 1
    assert found.follows[0].patch == {"circuits": {"one": {"mark": "room"}}}


def test_rows_go_out_as_csv_and_come_back_the_same() -> None:
    plan = lamp()
    made = session(plan, (1, "90%"), (2, "note =1+1"), (3, "310 W at the output"))
    assert read_rows(write_rows(made)) == list(made.rows)
    assert "'" in write_rows(made) or "=1" in write_rows(made)
    shuffled = "told;kind;id;at\nhello;remark;x;2026-01-12T03:00:00\n"
    assert [(row.told, row.entered) for row in read_rows(shuffled)] == [("hello", datetime(2026, 1, 12, 3))]
    with pytest.raises(InvalidInput, match="lacks id, told"):
        read_rows("at,kind\n")
    with pytest.raises(InvalidInput) as wrong:
        read_rows("id,at,kind,told\nx,yesterday,remark,a\n")
    assert wrong.value.problems[0].field == "/2/at"


def test_ticks_become_rows_of_the_session_that_had_begun() -> None:
    entry = RecordEntry(
        id="5f0c1b1e-31ab", kind="tripped", at=datetime(2026, 1, 12, 10, tzinfo=UTC), sheet="change-over",
        revision=1, step=3, action="Turn the main off", read={"leg A": "119 V"},
    )  # fmt: skip
    sessions = [
        ("old", datetime(2026, 1, 1)),
        ("new", datetime(2026, 1, 11)),
        ("later", datetime(2026, 2, 1)),
    ]
    [(key, row)] = ticked([entry], sessions, "America/Los_Angeles", START)
    assert (key, row.at, row.what) == ("new", datetime(2026, 1, 12, 2), "trip")
    assert row.told == "it tripped: Turn the main off (leg A 119 V)"
    assert list(ticked([entry], [("later", datetime(2026, 2, 1))], "America/Los_Angeles", START)) == []


def test_on_the_command_line(tmp_path: Path) -> None:
    plan, log = tmp_path / "plan.json", tmp_path / "session.json"
    plan.write_text(json.dumps(canonical(lamp())))
    at = ["--now", "2026-01-12T08:00"]
    assert cedar("log", str(plan), str(log), "60%", *at).returncode == 0
    assert cedar("log", str(log), "lamp off", *at).returncode == 0
    assert cedar("log", str(log)).returncode == 2
    assert "SESSION.json" in cedar("log", str(plan)).stderr
    start = cedar("start", str(plan), "--session", str(log), "--load", "lamp", "--for", "10 min")
    assert start.returncode == 0, start.stdout + start.stderr
    assert cedar("start", str(plan), "--load", "lamp").returncode == 2
    assert cedar("suggest", str(plan), "--session", str(log)).returncode == 0
    assert cedar("schedule", str(plan), "--session", str(log), "--outages", "0").returncode == 0
    assert cedar("meters", str(plan), str(log)).returncode == 1
    pdf = tmp_path / "report.pdf"
    told = cedar("afterwards", str(plan), str(log), "--pdf", str(pdf))
    assert (told.returncode, told.stdout.split("\n")[0][:12]) == (0, "The outage l")
    assert len(PdfReader(BytesIO(pdf.read_bytes())).pages) == 2
    csv = tmp_path / "rows.csv"
    csv.write_text(cedar("rows", str(log)).stdout)
    assert "0 new rows" in cedar("rows", str(log), "--read", str(csv)).stdout
    shown = json.loads(cedar("stand-in", "station", str(plan), "--at", "5 h").stdout)
    assert shown["simulated"]
    assert cedar("stand-in", "station", str(plan), "--station", "none", "--at", "5 h").returncode == 2


@pytest.mark.parametrize("percent", [20, 45, 60, 61, 90])
def test_a_forecast_begins_with_just_what_was_read(percent: int) -> None:
    """Though its run begins a quarter of an hour before, and an engine may start in it."""
    plan = demo_plan("foothill")
    at = plan.outage.start_local + timedelta(hours=27)
    row = SessionRow(
        id="r",
        at=at,
        entered=at,
        kind="reading",
        told="x",
        what="charge",
        part="stations/station",
        value=percent,
    )
    made = begun(plan, "Storm", plan.outage.start_local).with_rows([row])
    found = forecast(plan, made, outages=1)
    assert found.charges["station"] == pytest.approx(percent, abs=0.2)
    assert all(item.at > at for item in found.due)


def test_head_and_packs_that_stand_unlike_begin_as_they_were_read() -> None:
    plan = demo_plan("foothill")
    pack = next(iter(plan.stations["station"].packs))
    at = plan.outage.start_local + timedelta(hours=27)
    fields: dict[str, Any] = {"at": at, "entered": at, "kind": "reading", "told": "x", "what": "charge"}
    rows = [
        SessionRow(id="r", part="stations/station", value=60, **fields),
        SessionRow(id="p", part="stations/station", pack=pack, value=80, **fields),
    ]
    found = present(plan, begun(plan, "Storm", plan.outage.start_local).with_rows(rows))
    readings = found.run.batteries["station"].readings
    at_now = {key: float(np.interp(found.now_s, one.t_s, one.percent)) for key, one in readings.items()}
    assert at_now["head"] < at_now[pack]
    assert charge_at(found.run, "station", found.now_s, "head") == pytest.approx(60, abs=8)
