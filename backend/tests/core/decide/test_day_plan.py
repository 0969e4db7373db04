"""Each day in words, the same as a calendar file, and a stretch of a run in full."""

import re
from datetime import timedelta
from itertools import pairwise

import numpy as np
import pytest
from builders import circuit, cycling, house, job, load, steady
from icalendar import Calendar

from weary_cedar.core.decide.day_plan import DayPlan, day_plan
from weary_cedar.core.outage import run_outage
from weary_cedar.core.outage.thinned import stretch, thinned
from weary_cedar.core.plan import read_plan
from weary_cedar.core.runbook.sheet import CAUTIONS
from weary_cedar.demo import DEMOS, demo_plan
from weary_cedar.formats.calendar_file import calendar_of
from weary_cedar.store.edits import canonical

RUNS = {name: run_outage(demo_plan(name)) for name in DEMOS}


def test_a_day_by_hand() -> None:
    """5,120 Wh, 100 W all the time, a kettle of 1 kW for half an hour at noon: 2,900 Wh a day."""
    made = house(
        {"a": circuit([1])},
        {
            "always": load("a", steady(100.0), name="lamp"),
            "kettle": load("a", job("12:00", "13:00", (1000, 30)), name="kettle"),
        },
        outage={"start_local": "2026-01-12T00:00:00", "length_s": 86_400.0, "changeover_after_s": 0.0},
    )
    made["outage"]["occupancy"] = {"wakes": "06:00", "sleeps": "22:00"}
    plan = read_plan(made)
    (day,) = day_plan(plan, run_outage(plan))
    left = 100 * (1 - (22 * 100 + 500) / 5120)
    assert day.day == "Mon 12 Jan"
    assert "May run: kettle at 12:00." in day.text
    assert f"Charge {left:.0f} % at bedtime (22:00)." in day.text
    assert [doing.words for doing in day.doings] == [
        "kettle may run",
        f"bedtime: {left:.0f} % should be left",
    ]
    assert day.doings[0].until == day.doings[0].at + timedelta(minutes=30)


def test_food_and_pipes_are_to_be_watched() -> None:
    """By the run's own courses: two hours over the limit, all told; the first moment under the limit."""
    plan = demo_plan("foothill")
    document = canonical(plan)
    document["site"]["pipes_c"] = 17.0
    document["loads"]["freezer"]["behaviour"]["compartments"]["harvest"]["limit_c"] = -17.0
    plan = read_plan(document)
    run = run_outage(plan)
    (part,), (room,) = run.compartments.values(), run.indoor.values()
    assert part.spoils_at_s is not None
    assert room.under_at_s is not None
    seconds = np.arange(0.0, part.spoils_at_s, 1.0)
    over = np.interp(seconds, part.t_s, part.contents_c) > part.limit_c
    assert over.sum() == pytest.approx(7200, abs=120)
    assert np.interp(room.under_at_s, room.t_s, room.c) == pytest.approx(17.0, abs=0.01)
    assert min(c for t, c in zip(room.t_s, room.c, strict=True) if t < room.under_at_s) >= 17.0
    text = " ".join(day.text for day in day_plan(plan, run))
    assert "throw away what spoils in harvest freezer from" in text
    assert "colder than 63 °F indoors from" in text


def test_what_runs_dry_is_to_be_watched() -> None:
    made = house({"a": circuit([1])}, {"a": load("a", cycling(2000.0, 0.9, 3600.0), name="heater")})
    made["outage"]["length_s"] = 2 * 86_400.0
    plan = read_plan(made)
    days = day_plan(plan, run_outage(plan))
    assert any("Watch: " in day.text and "is empty" in day.text for day in days)


@pytest.mark.parametrize("name", DEMOS)
def test_the_days_add_up_to_the_run(name: str) -> None:
    """Sun of all days is what the accounts say; days join on; nothing is told outside of its day."""
    plan, run = demo_plan(name), RUNS[name]
    days = day_plan(plan, run)
    assert days[0].begins == run.start
    assert days[-1].ends == run.start + timedelta(seconds=run.length_s)
    for before, after in pairwise(days):
        assert before.ends == after.begins
        assert (after.begins.hour, after.begins.minute) == (0, 0)
    for day in days:
        assert all(day.begins <= doing.at < day.ends for doing in day.doings)
    told = [float(found[1]) for day in days if (found := re.search(r"The sun gives ([0-9.]+) kWh", day.text))]
    taken = sum(sun.taken_wh for sun in run.suns.values()) / 1000
    assert sum(told) == pytest.approx(taken, abs=0.05 * len(days))


def _with_acts(days: list[DayPlan]) -> list[bool]:
    """Of each entry of the calendar whether something is done then."""
    return [on for day in days for on in (bool(day.doings), *(True for _ in day.doings))]


def test_the_calendar_is_read_by_a_reader_of_its_own() -> None:
    """RFC 5545, read back by the library's parser: one entry a day and one for each thing on it."""
    plan = demo_plan("orchard")
    days = day_plan(plan, RUNS["orchard"])
    content = calendar_of(plan, days, ["Two bonds: inlet"])
    entries = list(Calendar.from_ical(content).walk("VEVENT"))
    assert len(entries) == len(days) + sum(len(day.doings) for day in days)
    assert all("DO NOT ENERGISE: Two bonds: inlet." in str(entry["SUMMARY"]) for entry in entries)
    acts = [entry for entry, on in zip(entries, _with_acts(days), strict=True) if on]
    assert acts
    assert all(caution in str(entry["DESCRIPTION"]) for entry in acts for caution in CAUTIONS)
    assert len({str(entry["UID"]) for entry in entries}) == len(entries)
    for entry in entries:
        alarms = entry.walk("VALARM")
        assert len(alarms) == (entry in acts) * ("DTEND" in entry)
        assert all(b"TRIGGER:-PT10M" in alarm.to_ical() for alarm in alarms)
        assert all(alarm["DESCRIPTION"] == entry["SUMMARY"] for alarm in alarms)
    assert content == calendar_of(plan, days, ["Two bonds: inlet"])
    assert calendar_of(plan, []) == calendar_of(plan, [])


@pytest.mark.parametrize("name", DEMOS)
def test_a_stretch_has_every_change_in_it(name: str) -> None:
    run = RUNS[name]
    from_s, to_s = run.length_s * 0.4, run.length_s * 0.5
    part = stretch(run, from_s, to_s)
    inside = [t for t in run.series.t_s if from_s <= t <= to_s]
    assert [t for t in part.series.t_s if from_s <= t <= to_s] == inside
    assert part.series.t_s[0] <= from_s
    assert len(part.series.t_s) == len(part.series.a_w) < len(run.series.t_s)
    assert part.verdict == run.verdict
    assert thinned(part, rows=10).series.t_s[0] == pytest.approx(part.series.t_s[0], abs=1e-3)
